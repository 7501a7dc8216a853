/** What a frame's crop is in each ratio of its job, for the small pictures. */
import type { FrameSize, Point } from '$core/math/frame-geometry.ts';
import { recomposed } from '$core/steps/crop/compose.ts';
import { type CropHandle, moveCrop, resizeCrop } from '$core/steps/crop/resize-crop.ts';
import { ratioValue } from '$core/picture/output/ratios.ts';
import type { Rectangle } from '$core/steps/crop/rectangle.ts';
import { placeMarks } from '$core/render/readings/measure.ts';
import type { SnapTargets } from '$core/steps/crop/snap-crop.ts';
import { planFrame } from '$core/render/plan.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { cropView } from './crop-view.svelte.ts';

export interface RatioCrop {
  ratio: string;
  crop: Rectangle;
  /** It no longer follows the composition. */
  own: boolean;
}

export function ratioCrops(bench: Bench, ratios: readonly string[]): RatioCrop[] {
  const { recipe, optics } = bench;
  return ratios.map((ratio) => {
    const plan = planFrame(
      optics,
      { ...recipe, crop: { ...recipe.crop, ratio, enabled: true } },
      bench.terms
    );
    return { ratio, crop: plan.crop, own: ratio in recipe.crop.own };
  });
}

/** Marks and the picture's middle, for edges and guides to come to rest on. */
export function snapTargets({ recipe, plan }: Bench): SnapTargets {
  const placed = placeMarks(recipe.lines.marks, plan);
  const of = (kind: string, axis: 0 | 1): number[] =>
    placed.filter((mark) => mark.kind === kind).map(({ a, b }) => (a[axis] + b[axis]) / 2);
  return { x: [0, ...of('plumb', 0)], y: [0, ...of('level', 1)] };
}

export const isTurnable = (ratio: string): boolean => {
  const value = ratioValue(ratio, { width: 3, height: 2 });
  return ratio !== 'original' && value !== null && value !== 1;
};

/** Shift and scale are in a crop that was placed by hand: applied again, they would move it twice. */
export const UNSHIFTED = { shiftX: 0, shiftY: 0, scale: 100 };

/** Takes a crop placed by hand: for the ratio in hand alone, or for all that follow the composition. */
export function placeCrop(bench: Bench, rectangle: Rectangle, moving = false): void {
  const crop = recomposed(bench.recipe.crop, rectangle, cropView(bench).alone);
  bench.changeSteps({ crop, lines: UNSHIFTED }, moving);
}

/** What a picture of so many pixels measures on paper: centimetres, and inches. */
export function printSize({ width, height }: FrameSize, ppi: number): { cm: string; inches: string } {
  const sides = (perInch: number): string =>
    [width, height].map((pixels) => ((pixels / ppi) * perInch).toFixed(1)).join(' × ');
  return { cm: `${sides(2.54)} cm`, inches: `${sides(1)} in` };
}

/** Moves the crop by pixels of the output, as far as there are real pixels. */
export function nudgeCrop(bench: Bench, dx: number, dy: number): void {
  const { crop, valid, output } = bench.plan;
  const pixel = crop.width / output.width;
  const outline = bench.recipe.crop.blank ? null : valid;
  const moved = moveCrop(crop, [crop.x + dx * pixel, crop.y + dy * pixel], outline);
  placeCrop(bench, moved);
}

/** Moves an edge of the crop by pixels of the output; with a ratio the rest follows. */
export function moveEdge(bench: Bench, edge: CropHandle, dx: number, dy: number): void {
  const { crop, valid, output } = bench.plan;
  const pixel = crop.width / output.width;
  const to: Point = [
    crop.x + (edge.x * crop.width) / 2 + dx * pixel,
    crop.y + (edge.y * crop.height) / 2 + dy * pixel
  ];
  const outline = bench.recipe.crop.blank ? null : valid;
  const ratio = ratioValue(bench.recipe.crop.ratio, bench.optics.size);
  placeCrop(bench, resizeCrop(crop, edge, to, ratio, outline));
}
