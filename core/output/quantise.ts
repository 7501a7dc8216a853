/**
 * Linear planes in the file's own colours to encoded sRGB values: falloff gain, output primaries, base curve and
 * transfer in one pass, since each alone would cost a pass over memory.
 */
import { type FrameSize, halfDiagonal } from '../math/frame-geometry.ts';
import {
  TABLE_SIZE,
  type Rendering,
  displayTable,
  encodingTable,
  lightTable
} from '../colour/display-table.ts';
import { REC2020_TO_SRGB } from '../colour/primaries.ts';
import { type OutputSpace, RGB_SPACES, betweenSpaces } from '../colour/rgb-spaces.ts';
import { type Falloff, falloffGains } from '../lens/falloff.ts';
import { type Matrix3, multiply } from '../math/matrix3.ts';
import type { MapMesh } from '../geometry/build-mesh.ts';
import { BLANK } from '../geometry/resample.ts';
import type { Planes } from '../tile/planes.ts';

/** How linear values become a picture. */
export interface Look {
  rendering: Rendering;
  /** The file's own colours to linear Rec.2020. */
  toWorking: Matrix3;
  falloff: Falloff | null;
  /** Size of the whole frame: falloff depends on the place in it. */
  size: FrameSize;
  /** Colour space of the output (default sRGB). */
  space?: OutputSpace;
}

export interface QuantiseOptions extends Look {
  /** First output row of `planes` and the row after its last (default: all). */
  from?: number;
  to?: number;
}

/** Gains of the three colours at every node of the mesh; between nodes they are bilinear, like the map. */
function gainNodes(mesh: MapMesh, { falloff, size }: Look): Float32Array[] {
  const gains = [0, 1, 2].map(() => new Float32Array(mesh.x.length).fill(1));
  if (!falloff) return gains;
  const unit = halfDiagonal(size);
  const [halfWidth, halfHeight] = [size.width / 2 / unit, size.height / 2 / unit];
  const out = new Float64Array(3);
  for (let i = 0; i < mesh.x.length; i++) {
    if (Number.isNaN(mesh.x[i])) continue;
    const x = (mesh.x[i] - size.width / 2) / unit;
    const y = (mesh.y[i] - size.height / 2) / unit;
    falloffGains(falloff, x, y, halfWidth, halfHeight, out);
    for (let c = 0; c < 3; c++) gains[c][i] = out[c];
  }
  return gains;
}

/** A table's value between its entries, for 0..1 (beyond: its ends). */
function lookUp(table: Float32Array, value: number): number {
  if (value <= 0) return table[0];
  if (value >= 1) return table[TABLE_SIZE - 1];
  const position = value * (TABLE_SIZE - 1);
  const i = position | 0;
  return table[i] + (table[i + 1] - table[i]) * (position - i);
}

/**
 * The same picture in a wider space. Tone is given per colour in sRGB's primaries, so that all spaces show the same; what
 * lies outside sRGB has a colour below zero there, which keeps its sign through the curve.
 */
function inSpace(
  space: OutputSpace,
  rendering: Rendering,
  emit: Emit
): { emit: Emit; encode: (linear: number) => number } {
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = betweenSpaces(RGB_SPACES.srgb, RGB_SPACES[space]);
  const light = lightTable(rendering);
  const encoding = encodingTable(space);
  return {
    /** Display-linear, with its sign; beyond 1 there is no more light. */
    encode: (linear) => (linear < 0 ? -lookUp(light, -linear) : lookUp(light, linear)),
    emit: (at, r, g, b, blank) =>
      emit(
        at,
        lookUp(encoding, m0 * r + m1 * g + m2 * b),
        lookUp(encoding, m3 * r + m4 * g + m5 * b),
        lookUp(encoding, m6 * r + m7 * g + m8 * b),
        blank
      )
  };
}

/** Receives one encoded pixel, each value in 0..1; `blank` where there is no real pixel. */
type Emit = (index: number, r: number, g: number, b: number, blank: boolean) => void;

function eachEncoded(planes: Planes, mesh: MapMesh, options: QuantiseOptions, take: Emit): void {
  const { view, step, columns } = mesh;
  const { from = 0, to = view.height, rendering, toWorking } = options;
  const table = displayTable(rendering);
  const gains = gainNodes(mesh, options);
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = multiply(REC2020_TO_SRGB, toWorking);
  const left = [0, 0, 0];
  const slope = [0, 0, 0];
  const { space = 'srgb' } = options;
  const wide = space === 'srgb' ? null : inSpace(space, rendering, take);
  const emit = wide?.emit ?? take;
  const encode = wide?.encode ?? ((linear: number): number => lookUp(table, linear));
  for (let row = from; row < to; row++) {
    const position = (row + 0.5) / step;
    const meshRow = Math.floor(position);
    const fy = position - meshRow;
    for (let column = 0; column * step < view.width; column++) {
      const i = meshRow * columns + column;
      const first = column * step;
      const last = Math.min(first + step, view.width);
      for (let c = 0; c < 3; c++) {
        const gain = gains[c];
        left[c] = gain[i] * (1 - fy) + gain[i + columns] * fy;
        slope[c] = (gain[i + 1] * (1 - fy) + gain[i + columns + 1] * fy - left[c]) / step;
      }
      const [leftR, leftG, leftB] = left;
      const [slopeR, slopeG, slopeB] = slope;
      for (let x = first; x < last; x++) {
        const at = (row - from) * view.width + x;
        if (planes.g[at] === BLANK) {
          emit(at, 0, 0, 0, true);
          continue;
        }
        const along = x - first + 0.5;
        const r = planes.r[at] * (leftR + slopeR * along);
        const g = planes.g[at] * (leftG + slopeG * along);
        const b = planes.b[at] * (leftB + slopeB * along);
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
