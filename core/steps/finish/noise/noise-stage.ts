/** Noise taken out of developed planes, before the geometry. */
import type { FrameFacts } from '../../../optics/frame-facts.ts';
import { inArena } from '../../../picture/kernels/arena.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import { type SensorRectangle, extentOf, pixelsOf } from '../../../picture/tile/sensor-rectangle.ts';
import type { SourceStage } from '../../../picture/tile/stage.ts';
import type { FinishSettings } from '../step.ts';
import { type NoiseData, noiseDataOf, noiseReach, shrinkPlanes } from './shrink-planes.ts';

interface Given {
  recipe: { finish: FinishSettings };
  facts: Pick<FrameFacts, 'noise' | 'rendering' | 'iso'>;
}

export const noiseStage: SourceStage<'noise', Given, NoiseData> = {
  name: 'noise',
  kind: 'source',
  prepare({ recipe: { finish }, facts }) {
    const { enabled, noise, noiseColour } = finish;
    if (!enabled || (noise === 0 && noiseColour === 0)) return null;
    return [noiseDataOf(finish, facts)];
  },
  needs: (made) => [grown(made, noiseReach(1) + 1)],
  apply(from, out, data) {
    // What was asked for beyond the picture is not there: the larger of the two holds all that is.
    takeNoiseOut(from[from.length - 1], out, data);
  }
};

/** A rectangle larger by so many pixels on each side. */
const grown = ({ left, top, right, bottom }: SensorRectangle, by: number): SensorRectangle => ({
  left: left - by,
  top: top - by,
  right: right + by,
  bottom: bottom + by
});

/** A part of planes, as far as they reach, that begins at even places of the picture, and has what lies about `own`. */
function fromEven(
  { originX, originY, scaleX, scaleY }: PlacedPlanes,
  own: SensorRectangle,
  { left, top, ...ends }: SensorRectangle
): SensorRectangle {
  const even = (origin: number, wanted: number, inner: number): number => {
    const from = Math.max(0, wanted);
    return from < inner && (Math.round(origin) + from) % 2 !== 0 ? from + 1 : from;
  };
  return {
    ...ends,
    left: even(originX * scaleX, left, own.left),
    top: even(originY * scaleY, top, own.top)
  };
}

/** Columns that are worked on at a time, so that little memory is taken, and the nearest is quick. */
const ACROSS = 1536;

function takeNoiseOut(planes: PlacedPlanes, out: PlacedPlanes, data: NoiseData): void {
  const own = pixelsOf(planes, extentOf(out));
  for (let column = 0; column < out.width; column += ACROSS) {
    const left = own.left + column;
    const right = Math.min(left + ACROSS, own.left + out.width);
    takeNoiseOutOf({ ...own, left, right }, planes, { out, column, data });
  }
}

/** Takes it out of a part of planes, in their pixels; what comes of it begins at a column of `out`, and at its first row. */
function takeNoiseOutOf(
  own: SensorRectangle,
  planes: PlacedPlanes,
  { out, column, data }: { out: PlacedPlanes; column: number; data: NoiseData }
): void {
  const scale = Math.min(1, out.scaleX);
  const { left, top, right, bottom } = fromEven(planes, own, grown(own, noiseReach(scale) + 1));
  const [wide, height] = [Math.min(planes.width, right) - left, Math.min(planes.height, bottom) - top];
  const width = Math.ceil(wide / 4) * 4;
  const count = own.right - own.left;
  inArena((arena) => {
    const all = [0, 1, 2].map(() => arena.float32(width * height));
    (['r', 'g', 'b'] as const).forEach((name, c) => {
      for (let y = 0; y < height; y++) {
        const at = (top + y) * planes.width + left;
        const row = all[c].subarray(y * width, (y + 1) * width);
        row.set(planes[name].subarray(at, at + wide));
        row.fill(row[wide - 1], wide);
      }
    });
    const [r, g, b] = all;
    shrinkPlanes({ width, height, r, g, b }, scale, data, arena);
    (['r', 'g', 'b'] as const).forEach((name, c) => {
      for (let y = 0; y < out.height; y++) {
        const at = (own.top - top + y) * width + own.left - left;
        out[name].set(all[c].subarray(at, at + count), y * out.width + column);
      }
    });
  });
}
