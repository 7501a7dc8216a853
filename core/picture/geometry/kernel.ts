import { takeUint32, takeUint8 } from '../kernels/heap.ts';
import { kernelMemory } from '../kernels/kernels.ts';

/**
 * Weight tables of the Catmull-Rom kernel (Catmull & Rom 1974; Keys 1981 with a = -1/2). Below 1:1 the
 * kernel is widened by the reduction, so that it averages the area of an output pixel.
 */
export interface KernelTable {
  /** Taps in each direction (even). */
  taps: number;
  /** Weights, `taps` for each of `PHASES + 1` phases, summing to 1. */
  weights: Float32Array;
}

export const PHASES = 512;
/** Widths are rounded up to this fraction, so that few tables are made. */
const WIDTH_STEP = 1 / 8;

/** Weight of a sample `t` samples away. */
export function catmullRom(t: number): number {
  const x = Math.abs(t);
  if (x >= 2) return 0;
  return x < 1 ? 1 + x * x * (1.5 * x - 2.5) : 2 + x * (-4 + x * (2.5 - 0.5 * x));
}

const tables = new Map<number, KernelTable>();

/** Table for a reduction (source pixels per output pixel); 1 and below give the plain four-tap kernel. */
export function kernelTable(reduction: number): KernelTable {
  const width = Math.max(1, Math.ceil(reduction / WIDTH_STEP - 0.5) * WIDTH_STEP);
  const known = tables.get(width);
  if (known) return known;
  const taps = 2 * Math.ceil(2 * width);
  const weights = new Float32Array((PHASES + 1) * taps);
  for (let phase = 0; phase <= PHASES; phase++) {
    const fraction = phase / PHASES;
    let sum = 0;
    for (let i = 0; i < taps; i++) {
      const weight = catmullRom((i - (taps / 2 - 1) - fraction) / width);
      weights[phase * taps + i] = weight;
      sum += weight;
    }
    for (let i = 0; i < taps; i++) weights[phase * taps + i] /= sum;
  }
  const table = { taps, weights };
  tables.set(width, table);
  return table;
}

/** Widest kernel that a table is made for, in steps: below that levels of half the size are there to start from. */
export const WIDEST = 8 / WIDTH_STEP;

let written: { memory: WebAssembly.Memory; at: number } | null = null;

/**
 * Address of the tables' addresses by their widths in steps. A table in memory begins with its taps; 16 bytes later stand its
 * weights, those of each phase filled up with zeros to vectors of four.
 */
export function tableAddresses(): number {
  const memory = kernelMemory();
  if (written?.memory === memory) return written.at;
  const list = takeUint32(WIDEST + 1);
  for (let step = 1 / WIDTH_STEP; step <= WIDEST; step++) {
    const { taps, weights } = kernelTable(step * WIDTH_STEP);
    const padded = Math.ceil(taps / 4) * 4;
    const bytes = takeUint8(16 + (PHASES + 1) * padded * 4);
    new Int32Array(bytes.buffer, bytes.byteOffset, 1)[0] = taps;
    const rows = new Float32Array(bytes.buffer, bytes.byteOffset + 16, (PHASES + 1) * padded).fill(0);
    for (let phase = 0; phase <= PHASES; phase++)
      rows.set(weights.subarray(phase * taps, (phase + 1) * taps), phase * padded);
    list[step] = bytes.byteOffset;
  }
  written = { memory, at: list.byteOffset };
  return list.byteOffset;
}
