/** Specks of dust as places to mend, and mended dust as specks to look for on other frames. */
import type { FrameSize, Point } from '../../../math/frame-geometry.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import { overlap, writtenBox } from '../box.ts';
import { findSource } from '../find-source.ts';
import type { Patch, Region } from '../patch.ts';
import { type Dust, dustThatShows, findDust } from './find-dust.ts';

/** A speck is mended out to so many of its radii: what is left of a bell there is less than a hundredth. */
const OUT_TO = 2.3;
const FEATHER = 25;

const idOf = ([x, y]: Point): string => `dust ${Math.round(x * 1e4)} ${Math.round(y * 1e4)}`;

/** Patches for specks, each with its source; specks that are mended already are passed over. */
export function patchesFor(
  specks: readonly Dust[],
  planes: PlacedPlanes,
  frame: FrameSize,
  before: readonly Patch[]
): Patch[] {
  const made: Patch[] = [];
  for (const { at, radius } of specks) {
    const patch: Patch = {
      id: idOf(at),
      kind: 'heal',
      dust: true,
      enabled: true,
      name: '',
      points: at.map((each) => Math.round(each * 1e5) / 1e5),
      size: Math.min(150, Math.max(1, Math.round(OUT_TO * radius * 1e4) / 10)),
      feather: FEATHER,
      opacity: 100,
      source: [0, 0],
      fill: null
    };
    const box = writtenBox(patch, frame);
    if ([...before, ...made].some((other) => overlap(writtenBox(other, frame), box))) continue;
    made.push({ ...patch, source: findSource(planes, patch, frame, [...before, ...specks.map(regionOf)]) });
  }
  return made;
}

/** What a speck takes up, so that no source is looked for there. */
const regionOf = ({ at, radius }: Dust): Region => ({ points: at, size: OUT_TO * radius * 1000 });

/** The dust that was mended on a frame. */
export const mendedDust = (patches: readonly Patch[]): Dust[] =>
  patches
    .filter(({ dust, enabled, points }) => dust && enabled && points.length === 2)
    .map(({ points: [x, y], size }) => ({ at: [x, y], radius: size / 1000 / OUT_TO, depth: 0 }));

/** Places of the sensor on a frame of the camera turned by a quarter, either way. */
const TURNS: readonly ((at: Point) => Point)[] = [([x, y]) => [-y, x], ([x, y]) => [y, -x]];

export interface DustTask {
  planes: PlacedPlanes;
  size: FrameSize;
  before: readonly Patch[];
  /** What is known from another frame of the camera, and that frame's size; null: dust is looked for everywhere. */
  known: { specks: readonly Dust[]; size: FrameSize } | null;
}

/** Patches for the dust that shows on a picture. A camera that was held upright has its sensor turned one way or the other. */
export function lookForDust({ planes, size, before, known }: DustTask): Patch[] {
  if (!known) return patchesFor(findDust(planes, size), planes, size, before);
  const turned = known.size.width > known.size.height !== size.width > size.height;
  const ways = turned ? TURNS : [(at: Point): Point => at];
  const shown = ways.map((turn) =>
    dustThatShows(
      planes,
      size,
      known.specks.map((speck) => ({ ...speck, at: turn(speck.at) }))
    )
  );
  const most = shown.reduce((best, each) => (each.length > best.length ? each : best));
  return patchesFor(most, planes, size, before);
}
