/** Changes of areas, their shapes and parts, as steps of the history. */
import type { SkySettings } from '$core/steps/areas/another-sky/sky-settings.ts';
import type { Meeting } from '$core/steps/areas/parts/part-base.ts';
import type { Part, PartKind, PartOf } from '$core/steps/areas/parts/part.ts';
import { MOST_PARTS, type Shape } from '$core/steps/areas/shape.ts';
import { type Area, type AreasSettings, MOST_AREAS } from '$core/steps/areas/step.ts';
import { completeRecipe } from '$core/recipe/recipe.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { areasView } from './areas-view.svelte.ts';

export const newId = (): string => crypto.randomUUID().slice(0, 8);

export const areasOf = (bench: Bench): AreasSettings => bench.recipe.areas as unknown as AreasSettings;

/** Writes areas and shapes; shapes that no area has any more go with the last of them. */
export function putAreas(bench: Bench, change: Partial<AreasSettings>, moves = false): void {
  const { list, shapes } = { ...areasOf(bench), ...change };
  const used = shapes.filter(({ id }) => list.some(({ shape }) => shape === id));
  bench.change('areas', { list, shapes: used } as never, moves);
}

/** The area that is worked on, with its shape and its place in the list. */
export function chosenArea(bench: Bench): { area: Area; shape: Shape; index: number } | null {
  const { list, shapes } = areasOf(bench);
  const index = list.findIndex(({ id }) => id === areasView(bench).area);
  const shape = shapes.find(({ id }) => id === list[index]?.shape);
  return index >= 0 && shape ? { area: list[index], shape, index } : null;
}

/** A shape and an area with nothing set. */
function emptyArea(): { area: Area; shape: Shape } {
  const [id, shape] = [newId(), newId()];
  const { areas } = completeRecipe({ areas: { shapes: [{ id: shape }], list: [{ id, shape }] } } as never);
  return { area: areas.list[0] as unknown as Area, shape: areas.shapes[0] as unknown as Shape };
}

/** Why no area can be added; null: one can. */
export const areasFull = (bench: Bench): string | null =>
  areasOf(bench).list.length >= MOST_AREAS
    ? `A frame has ${MOST_AREAS} areas at most: remove one first.`
    : null;

/** Sets some of what the chosen area does. */
export function setInArea<Of extends 'tone' | 'colour'>(
  bench: Bench,
  of: Of,
  own: Partial<Area['settings'][Of]>,
  moves = false
): void {
  const chosen = chosenArea(bench);
  if (!chosen) return;
  const { id, settings } = chosen.area;
  changeArea(bench, id, { settings: { ...settings, [of]: { ...settings[of], ...own } } }, moves);
}

/** Adds an area, chosen at once. */
export function addArea(bench: Bench, parts: readonly Part[] = [], name = ''): void {
  const mine = areasView(bench);
  mine.said = areasFull(bench) ?? '';
  if (mine.said) return;
  const { list, shapes } = areasOf(bench);
  const { area, shape } = emptyArea();
  putAreas(bench, { list: [...list, { ...area, name }], shapes: [...shapes, { ...shape, parts }] });
  [mine.area, mine.part] = [area.id, parts.at(-1)?.id ?? null];
}

export function removeArea(bench: Bench, id: string): void {
  const { list } = areasOf(bench);
  const at = list.findIndex((area) => area.id === id);
  putAreas(bench, { list: list.filter((area) => area.id !== id) });
  const mine = areasView(bench);
  if (mine.area === id) mine.area = areasOf(bench).list[Math.min(at, list.length - 2)]?.id ?? null;
}

/** Another area with the same settings: in a shape of its own, or in the same one, which then changes with both. */
export function duplicateArea(bench: Bench, id: string, shared: boolean): void {
  const { list, shapes } = areasOf(bench);
  const at = list.findIndex((area) => area.id === id);
  const mine = areasView(bench);
  mine.said = areasFull(bench) ?? '';
  if (at < 0 || mine.said) return;
  const copy: Area = { ...list[at], id: newId(), shape: shared ? list[at].shape : newId() };
  const shape = shapes.find((each) => each.id === list[at].shape)!;
  putAreas(bench, {
    list: list.toSpliced(at + 1, 0, copy),
    shapes: shared ? shapes : [...shapes, { ...shape, id: copy.shape }]
  });
  mine.area = copy.id;
}

/** Moves an area up or down the list. */
export function moveArea(bench: Bench, id: string, by: 1 | -1): void {
  const { list } = areasOf(bench);
  const from = list.findIndex((area) => area.id === id);
  const to = from + by;
  if (from < 0 || to < 0 || to >= list.length) return;
  putAreas(bench, { list: list.toSpliced(from, 1).toSpliced(to, 0, list[from]) });
}

/** The areas that a change of one acts on: those that are chosen with it, or it alone. */
export function together(bench: Bench, id: string): readonly string[] {
  const { area, also } = areasView(bench);
  const chosen = area === null ? also : [area, ...also];
  return chosen.includes(id) ? chosen : [id];
}

/** Changes several areas alike, as one step. */
export function changeAreas(
  bench: Bench,
  ids: readonly string[],
  change: Partial<Area>,
  moves = false
): void {
  const { list } = areasOf(bench);
  putAreas(
    bench,
    { list: list.map((area) => (ids.includes(area.id) ? { ...area, ...change } : area)) },
    moves
  );
}

/** Puts areas into a group, or into none (an empty name), and beside those that are in it. */
export function groupAreas(bench: Bench, ids: readonly string[], group: string): void {
  const { list } = areasOf(bench);
  const moved = list.filter(({ id }) => ids.includes(id)).map((area) => ({ ...area, group }));
  const others = list.filter(({ id }) => !ids.includes(id));
  const last = group === '' ? -1 : others.findLastIndex((area) => area.group === group);
  const first = list.findIndex(({ id }) => ids.includes(id));
  // Before the first of them there are only others.
  const at = last >= 0 ? last + 1 : first;
  putAreas(bench, { list: others.toSpliced(at, 0, ...moved) });
}

/** Another area on the other side of the line where a gradient is gone, that does the opposite to light and colours. */
export function addCounterpart(bench: Bench, part: PartOf<'gradient'>): void {
  const chosen = chosenArea(bench);
  const mine = areasView(bench);
  mine.said = areasFull(bench) ?? '';
  if (!chosen || mine.said) return;
  const { area, shape } = chosen;
  const { a, b } = part;
  const turned: Part = { ...part, id: newId(), a: [2 * b[0] - a[0], 2 * b[1] - a[1]], b, twoSided: false };
  const { list, shapes } = areasOf(bench);
  const one: Part = { ...part, twoSided: false };
  const opposite: Area = {
    ...area,
    id: newId(),
    shape: newId(),
    name: '',
    settings: { ...area.settings, tone: negated(area.settings.tone), colour: negated(area.settings.colour) }
  };
  putAreas(bench, {
    list: list.toSpliced(chosen.index + 1, 0, opposite),
    shapes: [
      ...shapes.map((each) =>
        each.id === shape.id
          ? { ...each, parts: each.parts.map((other) => (other.id === part.id ? one : other)) }
          : each
      ),
      {
        ...shape,
        id: opposite.shape,
        parts: shape.parts.map((other) => (other.id === part.id ? turned : other))
      }
    ]
  });
}

/** Those settings the other way that go both ways. */
const BOTH_WAYS = [
  'exposure',
  'contrast',
  'highlights',
  'shadows',
  'midtones',
  'warmth',
  'tint',
  'saturation'
];
const negated = <T extends object>(settings: T): T =>
  Object.fromEntries(
    Object.entries(settings).map(([name, value]) =>
      BOTH_WAYS.includes(name) && typeof value === 'number' && value !== 0 ? [name, -value] : [name, value]
    )
  ) as T;

export const changeArea = (bench: Bench, id: string, change: Partial<Area>, moves = false): void =>
  changeAreas(bench, [id], change, moves);

/** Nothing that is done in an area; its shape and its name stay. */
export function neutralArea(bench: Bench, id: string): void {
  const { settings, opacity, revision, sky } = emptyArea().area;
  changeArea(bench, id, { settings, opacity, revision, sky });
}

export function changeShape(bench: Bench, id: string, change: Partial<Shape>, moves = false): void {
  const { shapes } = areasOf(bench);
  putAreas(
    bench,
    { shapes: shapes.map((shape) => (shape.id === id ? { ...shape, ...change } : shape)) },
    moves
  );
}

/** Where an area takes its shape from that of another: its own copy of it, or the very one. */
export function takeShape(bench: Bench, from: Area, shared: boolean): void {
  const chosen = chosenArea(bench);
  const { list, shapes } = areasOf(bench);
  const other = shapes.find(({ id }) => id === from.shape);
  if (!chosen || !other) return;
  const id = shared ? other.id : newId();
  putAreas(bench, {
    list: list.map((area) => (area.id === chosen.area.id ? { ...area, shape: id } : area)),
    shapes: shared ? shapes : [...shapes, { ...other, id }]
  });
}

/** How far the edge of a sky is refined, in thousandths of half the diagonal: about roofs, branches and cables. */
const SKY_RADIUS = 12;

/**
 * Areas in which one shows another sky, or none; without an area, one begins, and an empty shape becomes the sky that is found.
 * Where the sky lies stays when another takes its place.
 */
export function withSky(
  { list, shapes }: AreasSettings,
  areaId: string | null,
  picture: string | null
): { list: readonly Area[]; shapes: readonly Shape[]; area: string } {
  const begun = emptyArea();
  const own = list.find(({ id }) => id === areaId);
  if (picture === null)
    return {
      list: list.map((area) => (area === own ? { ...area, sky: null } : area)),
      shapes,
      area: areaId ?? ''
    };
  const area = own ?? begun.area;
  const shape = shapes.find(({ id }) => id === area.shape) ?? begun.shape;
  // Of one name in all that is tried: they share a mask.
  const found: Part = { id: 'sky', kind: 'found', meets: 'add', what: 'sky' };
  const filled = shape.parts.length > 0 ? shape : { ...shape, parts: [found], radius: SKY_RADIUS };
  const shown = { ...area, sky: { ...(area.sky ?? newSky(picture)), picture } };
  return {
    list: own ? list.map((each) => (each === own ? shown : each)) : [...list, shown],
    shapes: shapes.includes(shape)
      ? shapes.map((each) => (each === shape ? filled : each))
      : [...shapes, filled],
    area: area.id
  };
}

function newSky(picture: string): SkySettings {
  const list = [{ id: 'a', shape: 's', sky: { picture } }];
  const { areas } = completeRecipe({ areas: { shapes: [{ id: 's' }], list } } as never);
  return (areas.list[0] as unknown as Area).sky!;
}

/** Shows another sky in the chosen area, or none. */
export function showSky(bench: Bench, picture: string | null): void {
  const mine = areasView(bench);
  const chosen = chosenArea(bench);
  mine.said = !chosen && picture !== null ? (areasFull(bench) ?? '') : '';
  if (mine.said || (!chosen && picture === null)) return;
  const { area, ...areas } = withSky(areasOf(bench), chosen?.area.id ?? null, picture);
  putAreas(bench, areas);
  mine.area = area;
}

/** Whether other areas have the same shape. */
export const sharesShape = (bench: Bench, { shape }: Area): number =>
  areasOf(bench).list.filter((area) => area.shape === shape).length - 1;

export const NOTHING_TO_TAKE_FROM =
  'There is nothing to erase: no area is chosen whose shape has something in it.';

/** Adds a part to the chosen area's shape; without one, to a new area. `meets`: other than as the next part is said to. */
export function addPart<K extends PartKind>(
  bench: Bench,
  kind: K,
  drawn: Omit<PartOf<K>, 'id' | 'kind' | 'meets'>,
  { moves = false, meets = areasView(bench).meets }: { moves?: boolean; meets?: Meeting } = {}
): void {
  const mine = areasView(bench);
  const chosen = chosenArea(bench);
  const first = !chosen?.shape.parts.length;
  mine.said = first && meets === 'take' ? NOTHING_TO_TAKE_FROM : '';
  if (mine.said) return;
  const part = { id: newId(), kind, meets: first ? 'add' : meets, ...drawn } as unknown as Part;
  if (!chosen) return addArea(bench, [part]);
  const { shape } = chosen;
  mine.said =
    shape.parts.length >= MOST_PARTS ? `A shape has ${MOST_PARTS} parts at most: remove one first.` : '';
  if (mine.said) return;
  changeShape(bench, shape.id, { parts: [...shape.parts, part] }, moves);
  mine.part = part.id;
}

export function changePart(bench: Bench, id: string, change: object, moves = false): void {
  const chosen = chosenArea(bench);
  if (!chosen) return;
  const parts = chosen.shape.parts.map((part) => (part.id === id ? ({ ...part, ...change } as Part) : part));
  changeShape(bench, chosen.shape.id, { parts }, moves);
}

export function removePart(bench: Bench, id: string): void {
  const chosen = chosenArea(bench);
  if (!chosen) return;
  changeShape(bench, chosen.shape.id, { parts: chosen.shape.parts.filter((part) => part.id !== id) });
  const mine = areasView(bench);
  if (mine.part === id) mine.part = null;
}

export const partOf = <K extends PartKind>(bench: Bench, kind: K): PartOf<K> | null => {
  const found = chosenArea(bench)?.shape.parts.find(
    (part) => part.id === areasView(bench).part && part.kind === kind
  );
  return (found as PartOf<K> | undefined) ?? null;
};
