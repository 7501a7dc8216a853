/** Changes of mended places, as steps of the history. */
import { MOST_PATCHES, type Patch, type Region } from '$core/steps/mend/patch.ts';
import type { MendSettings } from '$core/steps/mend/step.ts';
import type { Fill } from '$core/steps/mend/fill/fill.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { mendView } from './mend-view.svelte.ts';

export const mendOf = (bench: Bench): MendSettings => bench.recipe.mend as unknown as MendSettings;

export function putPatches(bench: Bench, patches: readonly Patch[], moves = false): void {
  bench.change('mend', { patches } as never, moves);
}

export const chosenPatch = (bench: Bench): Patch | null =>
  mendOf(bench).patches.find(({ id }) => id === mendView(bench).patch) ?? null;

export function changePatch(bench: Bench, id: string, change: Partial<Patch>, moves = false): void {
  const { patches } = mendOf(bench);
  putPatches(
    bench,
    patches.map((patch) => (patch.id === id ? { ...patch, ...change } : patch)),
    moves
  );
}

export function removePatch(bench: Bench, id: string): void {
  putPatches(
    bench,
    mendOf(bench).patches.filter((patch) => patch.id !== id)
  );
  const mine = mendView(bench);
  if (mine.patch === id) mine.patch = null;
}

/** Why no place can be added; null: one can. */
export const mendFull = (bench: Bench): string | null =>
  mendOf(bench).patches.length >= MOST_PATCHES
    ? `A frame has ${MOST_PATCHES} mended places at most: remove one first.`
    : null;

/** Adds a place with the brush in hand; its source is found first. */
export async function addPatch(
  bench: Bench,
  sheet: SheetState,
  kind: Patch['kind'],
  points: readonly number[]
): Promise<void> {
  const mine = mendView(bench);
  mine.said = mendFull(bench) ?? '';
  if (mine.said || points.length === 0) return;
  const { size, feather, opacity } = mine.brush;
  const others = mendOf(bench).patches;
  const fill = kind === 'takeOut' ? await findFill(bench, sheet, { points, size }, null) : null;
  if (kind === 'takeOut' && !fill) return;
  const source: [number, number] =
    kind === 'cable' || kind === 'takeOut'
      ? [0, 0]
      : ((await sheet.preview?.ask<'source'>({
          kind: 'source',
          region: { points, size },
          others: $state.snapshot(others) as Patch[]
        })) ?? [0.05, 0]);
  const id = crypto.randomUUID().slice(0, 8);
  const patch: Patch = {
    id,
    kind,
    dust: false,
    enabled: true,
    name: '',
    points,
    size,
    feather,
    opacity,
    source: source.map((each) => Math.round(each * 1e6) / 1e6) as [number, number],
    fill
  };
  putPatches(bench, [...mendOf(bench).patches, patch]);
  mine.patch = id;
}

/** Looks for what a place can be filled with, and says so where there is nothing. */
async function findFill(
  bench: Bench,
  sheet: SheetState,
  region: Region,
  before: Fill | null
): Promise<Fill | null> {
  const mine = mendView(bench);
  mine.busy = true;
  mine.said = 'Looking for what fills the place…';
  try {
    const asked = $state.snapshot({ region, before }) as { region: Region; before: Fill | null };
    const { projection } = bench.plan;
    const found = (await sheet.preview?.ask<'fill'>({ kind: 'fill', ...asked, projection })) ?? null;
    mine.said = !found
      ? 'Nothing about this place could fill it: paint less of the picture at once.'
      : found.surfaces
        ? 'Filled along the perspective of what is flat there.'
        : '';
    return found;
  } finally {
    mine.busy = false;
  }
}

/** Fills a place otherwise than it is. */
export async function fillAgain(bench: Bench, sheet: SheetState, { id, points, size }: Patch): Promise<void> {
  const before = mendOf(bench).patches.find((patch) => patch.id === id)?.fill ?? null;
  // What it is filled with now is not looked at: it lies in the place itself.
  const fill = await findFill(bench, sheet, { points, size }, before);
  if (fill) changePatch(bench, id, { fill });
}

/** Looks for dust that shows and mends it. */
export async function findDust(bench: Bench, sheet: SheetState): Promise<void> {
  const mine = mendView(bench);
  if (mine.busy) return;
  mine.busy = true;
  mine.said = 'Looking for dust…';
  try {
    const others = $state.snapshot(mendOf(bench).patches) as Patch[];
    const found = (await sheet.preview?.ask<'dust'>({ kind: 'dust', others })) ?? [];
    const there = mendOf(bench).patches;
    const added = found
      .filter(({ id }) => !there.some((each) => each.id === id))
      .slice(0, MOST_PATCHES - there.length);
    if (added.length > 0) putPatches(bench, [...there, ...added]);
    mine.said =
      added.length === 0
        ? 'No dust shows on this frame.'
        : `${added.length === 1 ? 'One speck' : `${added.length} specks`} found and mended: switch off what is none.`;
  } finally {
    mine.busy = false;
  }
}
