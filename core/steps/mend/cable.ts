/**
 * Takes a thin line out: across it, what lies beside it is laid in, in the light of both sides. Every place is made from a few
 * radii about it, so a cable may be as long as the picture.
 */
import { smoothstep } from '../../math/smoothstep.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';
import { extentOf, pixelsOf } from '../../picture/tile/sensor-rectangle.ts';
import { BESIDE, type Box, type PlacedRegion } from './box.ts';
import { type Reader, readerOf, root } from './reader.ts';

/** How far along the line the light of a side is the mean of, in radii each way, and in how many places it is read. */
const ALONG = 2;
const PLACES = 9;

/** How much the roots along a side may vary, as their mean deviation, where it is one surface, and where it is none. */
const EVEN = 0.015;
const UNEVEN = 0.05;

/** Mean root of a colour along a side of the line, and the mean deviation from it. */
function sideLight(
  read: Reader,
  colour: 0 | 1 | 2,
  at: Point,
  along: Point,
  radius: number,
  values: Float32Array
): { light: number; varies: number } {
  let [light, varies] = [0, 0];
  for (let i = 0; i < PLACES; i++) {
    const by = radius * ALONG * ((2 * i) / (PLACES - 1) - 1);
    values[i] = root(read(colour, Math.round(at[0] + along[0] * by), Math.round(at[1] + along[1] * by)));
    light += values[i] / PLACES;
  }
  for (let i = 0; i < PLACES; i++) varies += Math.abs(values[i] - light) / PLACES;
  return { light, varies };
}

type Point = readonly [number, number];

/** Segments of a polyline that come near a box. */
function segmentsIn(points: readonly number[], box: Box, radius: number): (readonly number[])[] {
  const found: (readonly number[])[] = [];
  for (let i = 0; i + 3 < points.length; i += 2) {
    const [ax, ay, bx, by] = points.slice(i, i + 4);
    const near =
      Math.min(ax, bx) - radius < box.right &&
      Math.max(ax, bx) + radius > box.left &&
      Math.min(ay, by) - radius < box.bottom &&
      Math.max(ay, by) + radius > box.top;
    if (near && (ax !== bx || ay !== by)) found.push([ax, ay, bx, by]);
  }
  return found;
}

/** Writes the part of a cable that lies in `out`; `own` holds planes about it. */
export function takeCableOut(
  { points, radius, feather, opacity }: PlacedRegion & { feather: number; opacity: number },
  own: PlacedPlanes,
  out: PlacedPlanes
): void {
  const { scaleX: scale } = out;
  const read = readerOf(own, out);
  const planes = [out.r, out.g, out.b];
  const inner = radius * (1 - feather);
  const values = new Float32Array(PLACES);
  const segments = segmentsIn(points, extentOf(out), radius);
  // Where segments meet, the later one is laid over the earlier.
  for (const [ax, ay, bx, by] of segments) {
    const length = Math.hypot(bx - ax, by - ay);
    const along: Point = [(bx - ax) / length, (by - ay) / length];
    const across: Point = [-along[1], along[0]];
    const area = pixelsOf(out, {
      left: Math.min(ax, bx) - radius,
      right: Math.max(ax, bx) + radius,
      top: Math.min(ay, by) - radius,
      bottom: Math.max(ay, by) + radius
    });
    for (let y = area.top; y < area.bottom; y++)
      for (let x = area.left; x < area.right; x++) {
        const px = out.originX + (x + 0.5) / out.scaleX - ax;
        const py = out.originY + (y + 0.5) / out.scaleY - ay;
        const t = px * along[0] + py * along[1];
        const s = px * across[0] + py * across[1];
        const beyond = t < 0 ? -t : t > length ? t - length : 0;
        const away = Math.hypot(s, beyond);
        if (away >= radius) continue;
        const share = opacity * (inner >= radius ? 1 : 1 - smoothstep(inner, radius, away));
        // Grain comes from the nearer side; light goes from one side to the other.
        const side = s >= 0 ? 1 : -1;
        const far = (side * BESIDE * radius - s) * scale;
        const edge = (to: 1 | -1): Point => [
          x + across[0] * (to * 1.15 * radius - s) * scale,
          y + across[1] * (to * 1.15 * radius - s) * scale
        ];
        const from: Point = [x + across[0] * far, y + across[1] * far];
        const mix = 0.5 + 0.5 * Math.max(-1, Math.min(1, s / radius));
        const at = y * out.width + x;
        for (let c = 0; c < 3; c++) {
          const colour = c as 0 | 1 | 2;
          const [low, high, own] = [edge(-1), edge(1), from].map((place) =>
            sideLight(read, colour, place, along, radius * scale, values)
          );
          const there = root(read(colour, Math.round(from[0]), Math.round(from[1])));
          const even = (1 - mix) * low.light + mix * high.light + there - own.light;
          // Among leaves and bars there is no light of a side: what lies there is taken as it is.
          const uneven = smoothstep(EVEN, UNEVEN, Math.max(low.varies, high.varies, own.varies));
          planes[c][at] += share * (Math.max(0, even + uneven * (there - even)) ** 2 - planes[c][at]);
        }
      }
  }
}
