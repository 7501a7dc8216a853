/**
 * Single colours of a picture at any place. Of a mosaic only sites of the colour itself are used: demosaicing leans on
 * the other colours, and so draws their edges together, which is just what is to be measured.
 */
import type { FrameSize } from '../../math/frame-geometry.ts';
import { bilinear } from '../../picture/tile/bilinear.ts';
import type { Planes } from '../../picture/tile/planes.ts';
import { type Mosaic, orientedSize } from '../../picture/raw/mosaic.ts';

export interface ColourSource {
  size: FrameSize;
  /** Linear, white-balanced value (0…1) of a colour at a sensor position, bilinear between its own samples. */
  sample(channel: 0 | 1 | 2, x: number, y: number): number;
  /** Green at a size that is quick to look through: the picture's own, or half of it. */
  readonly green: { width: number; height: number; data: Float32Array };
}

export function planesSource({ width, height, r, g, b }: Planes): ColourSource {
  const planes = [r, g, b];
  return {
    size: { width, height },
    green: { width, height, data: g },
    sample: (channel, x, y) => bilinear(planes[channel], width, height, x, y)
  };
}

/** The two green sites of each 2 x 2, upright. */
function halfGreen(mosaic: Mosaic): ColourSource['green'] {
  const { data, stride, left, top, pattern, black, white, multipliers, turns } = mosaic;
  const [across, down] = [mosaic.width >> 1, mosaic.height >> 1];
  const [one, other] = [0, 1, 2, 3]
    .filter((place) => pattern[place] === 1)
    .map((place) => (place >> 1) * stride + (place & 1));
  const scale = multipliers[1] / (white - black) / 2;
  const [width, height] = turns % 2 === 0 ? [across, down] : [down, across];
  const out = new Float32Array(width * height);
  // Where the first site comes to lie, and the way to the next across and down.
  const first = [0, width - 1, width * height - 1, (height - 1) * width][turns];
  const [stepX, stepY] = [
    [1, width],
    [width, -1],
    [-1, -width],
    [-width, 1]
  ][turns];
  for (let y = 0; y < down; y++) {
    let to = first + y * stepY;
    let from = (top + 2 * y) * stride + left;
    for (let x = 0; x < across; x++, to += stepX, from += 2)
      out[to] = (data[from + one] + data[from + other] - 2 * black) * scale;
  }
  return { width, height, data: out };
}

export function mosaicSource(mosaic: Mosaic): ColourSource {
  const { data, stride, left, top, width, height, pattern, black, white, multipliers, turns } = mosaic;
  const scale = 1 / (white - black);
  /** Bilinear among the sites of one of the four places in the 2 x 2 pattern; x and y of the stored picture. */
  const lattice = (place: number, x: number, y: number): number => {
    const ox = place & 1;
    const oy = place >> 1;
    const px = Math.min(Math.max((x - 0.5 - ox) / 2, 0), (width >> 1) - 1.001);
    const py = Math.min(Math.max((y - 0.5 - oy) / 2, 0), (height >> 1) - 1.001);
    const ix = px | 0;
    const iy = py | 0;
    const fx = px - ix;
    const fy = py - iy;
    const at = (top + oy + iy * 2) * stride + left + ox + ix * 2;
    return (
      (data[at] * (1 - fx) + data[at + 2] * fx) * (1 - fy) +
      (data[at + 2 * stride] * (1 - fx) + data[at + 2 * stride + 2] * fx) * fy
    );
  };
  const places = ([0, 1, 2] as const).map((colour) =>
    [0, 1, 2, 3].filter((place) => pattern[place] === colour)
  );
  return {
    size: orientedSize(mosaic),
    green: halfGreen(mosaic),
    sample(channel, x, y) {
      // Undo the quarter turns that set the picture upright.
      const sx = turns === 0 ? x : turns === 1 ? y : turns === 2 ? width - x : width - y;
      const sy = turns === 0 ? y : turns === 1 ? height - x : turns === 2 ? height - y : x;
      const own = places[channel];
      let sum = 0;
      for (const place of own) sum += lattice(place, sx, sy);
      return (sum / own.length - black) * scale * multipliers[channel];
    }
  };
}
