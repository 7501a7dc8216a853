/**
 * Linear working planes to encoded sRGB values: falloff gain, output primaries, base curve and transfer in
 * one pass, since each alone would cost a pass over memory.
 */
import { TABLE_SIZE, type Rendering, displayTable } from '../colour/display-table.ts';
import { REC2020_TO_SRGB } from '../colour/primaries.ts';
import { type FalloffTerms, falloffGain } from '../lens/falloff.ts';
import type { MapMesh } from '../pipeline/map-mesh.ts';
import { BLANK } from '../pipeline/resample.ts';
import type { Planes } from '../pipeline/planes.ts';

export interface Falloff {
  terms: FalloffTerms;
  /** 1 is the whole correction. */
  amount: number;
}

export interface QuantiseOptions {
  rendering: Rendering;
  falloff: Falloff | null;
  /** First output row of `planes` and the row after its last (default: all). */
  from?: number;
  to?: number;
}

/** Gain at every node of the mesh; between nodes it is bilinear, like the map. */
function gainNodes(mesh: MapMesh, falloff: Falloff | null): Float32Array {
  const gain = new Float32Array(mesh.r2.length).fill(1);
  if (!falloff || falloff.amount === 0) return gain;
  for (let i = 0; i < gain.length; i++) {
    // Outside the frame the polynomial means nothing; its value at the corner will do.
    const r2 = mesh.r2[i] <= 1 ? mesh.r2[i] : 1;
    gain[i] = falloffGain(falloff.terms, r2, falloff.amount);
  }
  return gain;
}

/** Receives one encoded pixel, each value in 0..1; `blank` where there is no real pixel. */
type Emit = (index: number, r: number, g: number, b: number, blank: boolean) => void;

function eachEncoded(planes: Planes, mesh: MapMesh, options: QuantiseOptions, emit: Emit): void {
  const { view, step, columns } = mesh;
  const { from = 0, to = view.height, rendering, falloff } = options;
  const table = displayTable(rendering);
  const gains = gainNodes(mesh, falloff);
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = REC2020_TO_SRGB;
  const top = TABLE_SIZE - 1;
  const encode = (linear: number): number => {
    if (linear <= 0) return table[0];
    if (linear >= 1) return table[top];
    const position = linear * top;
    const i = position | 0;
    return table[i] + (table[i + 1] - table[i]) * (position - i);
  };
  for (let row = from; row < to; row++) {
    const position = (row + 0.5) / step;
    const meshRow = Math.floor(position);
    const fy = position - meshRow;
    for (let column = 0; column * step < view.width; column++) {
      const i = meshRow * columns + column;
      const first = column * step;
      const last = Math.min(first + step, view.width);
      const left = gains[i] * (1 - fy) + gains[i + columns] * fy;
      const right = gains[i + 1] * (1 - fy) + gains[i + columns + 1] * fy;
      const slope = (right - left) / step;
      for (let x = first; x < last; x++) {
        const at = (row - from) * view.width + x;
        if (planes.g[at] === BLANK) {
          emit(at, 0, 0, 0, true);
          continue;
        }
        const gain = left + slope * (x - first + 0.5);
        const r = planes.r[at] * gain;
        const g = planes.g[at] * gain;
        const b = planes.b[at] * gain;
        emit(
          at,
          encode(m0 * r + m1 * g + m2 * b),
          encode(m3 * r + m4 * g + m5 * b),
          encode(m6 * r + m7 * g + m8 * b),
          false
        );
      }
    }
  }
}

/** 8-bit RGB rows; blank pixels are black. */
export function toRgb8(planes: Planes, mesh: MapMesh, out: Uint8Array, options: QuantiseOptions): void {
  eachEncoded(planes, mesh, options, (at, r, g, b) => {
    out[at * 3] = r * 255 + 0.5;
    out[at * 3 + 1] = g * 255 + 0.5;
    out[at * 3 + 2] = b * 255 + 0.5;
  });
}

/** 16-bit RGB rows; blank pixels are black. */
export function toRgb16(planes: Planes, mesh: MapMesh, out: Uint16Array, options: QuantiseOptions): void {
  eachEncoded(planes, mesh, options, (at, r, g, b) => {
    out[at * 3] = r * 65535 + 0.5;
    out[at * 3 + 1] = g * 65535 + 0.5;
    out[at * 3 + 2] = b * 65535 + 0.5;
  });
}

/** 8-bit RGBA rows for a canvas; blank pixels are transparent, so that the sheet shows through. */
export function toRgba8(
  planes: Planes,
  mesh: MapMesh,
  out: Uint8ClampedArray,
  options: QuantiseOptions
): void {
  eachEncoded(planes, mesh, options, (at, r, g, b, blank) => {
    out[at * 4] = r * 255;
    out[at * 4 + 1] = g * 255;
    out[at * 4 + 2] = b * 255;
    out[at * 4 + 3] = blank ? 0 : 255;
  });
}
