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

/** A part of planes that begins at even places of the picture, as long as it has what lies about `own`. */
function fromEven(
  { originX, originY, scaleX, scaleY }: PlacedPlanes,
  own: SensorRectangle,
  part: SensorRectangle
): SensorRectangle {
  const even = (origin: number, from: number, inner: number): number =>
    from < inner && (Math.round(origin) + from) % 2 !== 0 ? from + 1 : from;
  return {
    ...part,
    left: even(originX * scaleX, part.left, own.left),
    top: even(originY * scaleY, part.top, own.top)
  };
}

function takeNoiseOut(planes: PlacedPlanes, out: PlacedPlanes, data: NoiseData): void {
  const scale = Math.min(1, out.scaleX);
  const made = extentOf(out);
  const own = pixelsOf(planes, made);
  const part = fromEven(planes, own, pixelsOf(planes, grown(made, (noiseReach(scale) + 1) / scale)));
  const [wide, height] = [part.right - part.left, part.bottom - part.top];
  const width = Math.ceil(wide / 4) * 4;
  inArena((arena) => {
    const all = [0, 1, 2].map(() => arena.float32(width * height));
    (['r', 'g', 'b'] as const).forEach((name, c) => {
      for (let y = 0; y < height; y++) {
        const at = (part.top + y) * planes.width + part.left;
        const row = all[c].subarray(y * width, (y + 1) * width);
        row.set(planes[name].subarray(at, at + wide));
        row.fill(row[wide - 1], wide);
      }
    });
    const [r, g, b] = all;
    shrinkPlanes({ width, height, r, g, b }, scale, data, arena, true);
    (['r', 'g', 'b'] as const).forEach((name, c) => {
      for (let y = 0; y < out.height; y++) {
        const at = (own.top - part.top + y) * width + own.left - part.left;
        out[name].set(all[c].subarray(at, at + out.width), y * out.width);
      }
    });
  });
}
