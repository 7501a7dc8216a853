/**
 * The kernels: one WebAssembly module on memory that all threads of a process share, one instance a thread. Addresses are
 * bytes from the memory's beginning.
 */
import { MODULE } from './module.ts';

type Address = number;
type Flag = 0 | 1;

/** What the module gives; `assembly/` says what each does. */
export interface KernelFunctions {
  allocate(bytes: number): Address;
  release(block: Address): void;
  takenBytes(): number;
  boxMean(plane: Address, width: number, height: number, radius: number, across: Address, out: Address): void;
  multiplyPlanes(one: Address, other: Address, count: number, out: Address): void;
  guidedLines(
    guide: Address,
    input: Address,
    products: Address,
    squares: Address,
    count: number,
    epsilon: number
  ): void;
  fillFromCodes(codes: Address, count: number, table: Address, r: Address, g: Address, b: Address): void;
  storeCodes(r: Address, g: Address, b: Address, count: number, out: Address, scale: number): void;
  describeMosaic(
    values: Address,
    stride: number,
    left: number,
    top: number,
    width: number,
    height: number,
    pattern: number,
    black: number,
    white: number,
    red: number,
    green: number,
    blue: number
  ): void;
  developRows(
    r: Address,
    g: Address,
    b: Address,
    turns: number,
    highest: number,
    sizes: Address,
    from: number,
    to: number
  ): Flag;
  splitRows(
    nw: Address,
    ne: Address,
    sw: Address,
    se: Address,
    turns: number,
    columns: number,
    lines: number,
    from: number,
    to: number
  ): Flag;
  toOklab(
    r: Address,
    g: Address,
    b: Address,
    count: number,
    toLms: Address,
    toLab: Address,
    lightness: Address,
    a: Address,
    bb: Address
  ): void;
  extremes(
    plane: Address,
    width: number,
    height: number,
    radius: number,
    greatest: Flag,
    across: Address,
    out: Address
  ): void;
  chromaOfHue(
    a: Address,
    b: Address,
    count: number,
    cosine: number,
    sine: number,
    half: number,
    soft: number,
    least: number,
    out: Address
  ): void;
  takeThin(
    chroma: Address,
    opened: Address,
    change: Address,
    a: Address,
    b: Address,
    count: number,
    amount: number,
    weak: number,
    strong: number,
    taken: Address
  ): void;
  subtract(from: Address, what: Address, count: number, out: Address): void;
  loseChroma(
    r: Address,
    g: Address,
    b: Address,
    count: number,
    lightness: Address,
    a: Address,
    bb: Address,
    taken: Address,
    toRoots: Address,
    fromLms: Address
  ): void;
  halve(
    source: Address,
    width: number,
    height: number,
    out: Address,
    outWidth: number,
    from: number,
    to: number
  ): void;
  averageOnto(
    plane: Address,
    width: number,
    height: number,
    out: Address,
    outWidth: number,
    outHeight: number,
    work: Address
  ): void;
  logLight(r: Address, g: Address, b: Address, count: number, weights: Address, out: Address): void;
  interleave(plane: Address, count: number, out: Address, stride: number, place: number): void;
  relightRow(
    r: Address,
    g: Address,
    b: Address,
    count: number,
    x: Address,
    y: Address,
    falloff: Address,
    columns: number,
    step: number,
    row: number,
    left: number,
    grid: Address,
    haze: Address,
    gridWidth: number,
    gridHeight: number,
    numbers: Address,
    table: Address,
    work: Address
  ): void;
  countColours(rgba: Address, pixels: number, counts: Address): void;
  packRgb8(r: Address, g: Address, b: Address, valid: Address, count: number, out: Address): void;
  packRgb16(r: Address, g: Address, b: Address, valid: Address, count: number, out: Address): void;
  packRgba8(r: Address, g: Address, b: Address, valid: Address, count: number, out: Address): void;
  lookUpPlane(plane: Address, count: number, table: Address, steps: number, odd: Flag): void;
  scaleByLuminance(
    r: Address,
    g: Address,
    b: Address,
    count: number,
    weights: Address,
    table: Address,
    steps: number,
    most: number
  ): void;
  octaveShape(plane: Address, count: number, offset: number, low: number, perOctave: number): void;
  throughCube(r: Address, g: Address, b: Address, count: number, table: Address, numbers: Address): void;
  throughCurves(r: Address, g: Address, b: Address, count: number, table: Address, numbers: Address): void;
  gradeColours(
    r: Address,
    g: Address,
    b: Address,
    count: number,
    numbers: Address,
    hues: Address,
    zones: Address,
    casts: Flag,
    grey: Flag
  ): void;
  drawClipped(r: Address, g: Address, b: Address, count: number, numbers: Address, all: Flag): void;
  fadeToWhite(r: Address, g: Address, b: Address, count: number, weights: Address): void;
  mixColours(r: Address, g: Address, b: Address, count: number, matrix: Address, most: number): void;
  multiplyBetween(
    plane: Address,
    count: number,
    nodes: Address,
    columns: number,
    step: number,
    row: number,
    left: number
  ): void;
  placeSource(x: number, y: number, across: number, down: number, width: number, height: number): void;
  resampleRows(
    r: Address,
    g: Address,
    b: Address,
    x: Address,
    y: Address,
    redX: Address,
    redY: Address,
    blueX: Address,
    blueY: Address,
    columns: number,
    step: number,
    outWidth: number,
    from: number,
    to: number,
    outR: Address,
    outG: Address,
    outB: Address,
    valid: Address,
    tables: Address,
    widest: number,
    plain: Flag,
    folded: Flag
  ): void;
  sharpenRows(
    pixels: Address,
    width: number,
    height: number,
    out: Address,
    deep: Flag,
    weights: Address,
    reach: number,
    amount: number,
    slack: number,
    from: number,
    to: number,
    work: Address
  ): void;
}

/** What this machine lacks, in words for its user. */
export class KernelsUnavailable extends Error {}

/** Pages of 64 KB: what the module begins with, and the most that memory may grow to, largest first. */
const FIRST_PAGES = 16;
const MOST_PAGES = [65536, 32768, 16384, 8192];

/** Memory that threads can share; smaller where the machine does not give all. */
export function createMemory(most = MOST_PAGES): WebAssembly.Memory {
  for (const maximum of most) {
    try {
      return new WebAssembly.Memory({ initial: FIRST_PAGES, maximum, shared: true });
    } catch {
      // A smaller one may be had.
    }
  }
  throw new KernelsUnavailable(
    'There is no memory for pictures. Close other programs or tabs, then open this again; nothing is lost.'
  );
}

let compiled: WebAssembly.Module | null = null;

function compile(): WebAssembly.Module {
  if (typeof WebAssembly === 'undefined')
    throw new KernelsUnavailable(
      'WebAssembly is switched off here, and pictures cannot be drawn without it. Allow it, or use another browser.'
    );
  const binary = atob(MODULE);
  const bytes = Uint8Array.from({ length: binary.length }, (_, i) => binary.charCodeAt(i));
  // All that is asked for in one: instructions on vectors, and on shared memory.
  if (!WebAssembly.validate(bytes))
    throw new KernelsUnavailable(
      'This browser is too old to draw pictures: it lacks WebAssembly with SIMD and threads. Bring it up to date, or use another.'
    );
  return new WebAssembly.Module(bytes);
}

interface Instance {
  memory: WebAssembly.Memory;
  functions: KernelFunctions;
}

let instance: Instance | null = null;

function instantiate(memory: WebAssembly.Memory): Instance {
  compiled ??= compile();
  const abort = (): never => {
    throw new Error('A kernel broke off.');
  };
  const { exports } = new WebAssembly.Instance(compiled, { env: { memory, abort } });
  return { memory, functions: exports as unknown as KernelFunctions };
}

/** Works on a memory that another thread made; views of an earlier one are of no use any more. */
export function useMemory(memory: WebAssembly.Memory): void {
  instance = instantiate(memory);
}

const current = (): Instance => (instance ??= instantiate(createMemory()));

/** The kernels of this thread. */
export const kernels = (): KernelFunctions => current().functions;

/** The memory that they work on, to be given to other threads. */
export const kernelMemory = (): WebAssembly.Memory => current().memory;

/** Does without the memory from now on: the next use makes a new one. */
export function dropMemory(): void {
  instance = null;
}
