/**
 * Corrections that a DNG file carries for its own lens (opcode lists of the DNG specification 1.6, chapter 7), read as a
 * lens profile: WarpRectilinear, WarpFisheye, FixVignetteRadial and GainMap. Others are left alone.
 */
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import UTIF from 'utif2';
import { FULL_FRAME_HALF_DIAGONAL } from '../../core/optics/focal-length.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { type GainMap, mapGain } from '../../core/optics/falloff.ts';
import { type LensProfile, completeProfile, profileFault } from '../../core/optics/profile.ts';
import { FILE_PROFILE } from '../../core/steps/lens/frame-optics.ts';
import type { QuarterTurns } from '../../core/picture/raw/mosaic.ts';

type Directory = Record<string, unknown> & { subIFD?: Directory[] };

const OPCODE_LISTS = ['t51008', 't51009', 't51022'];
const WARP_RECTILINEAR = 1;
const WARP_FISHEYE = 2;
const FIX_VIGNETTE_RADIAL = 3;
const GAIN_MAP = 9;
/** Nodes of the grid that all gains are gathered on. */
const COLUMNS = 41;
const ROWS = 31;

interface Opcode {
  id: number;
  data: DataView;
}

/** Opcodes of a list; a damaged list gives those before the damage. */
export function readOpcodes(bytes: Uint8Array): Opcode[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 4) return [];
  const count = Math.min(view.getUint32(0), 100);
  const opcodes: Opcode[] = [];
  let at = 4;
  for (let i = 0; i < count && at + 16 <= bytes.length; i++) {
    const size = view.getUint32(at + 12);
    if (at + 16 + size > bytes.length) break;
    opcodes.push({
      id: view.getUint32(at),
      data: new DataView(bytes.buffer, bytes.byteOffset + at + 16, size)
    });
    at += 16 + size;
  }
  return opcodes;
}

const doubles = (data: DataView, from: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => data.getFloat64(from + i * 8));

/** Turns a place of the stored picture (0…1 across and down) to the upright one. */
function upright([x, y]: [number, number], turns: QuarterTurns): [number, number] {
  if (turns === 1) return [1 - y, x];
  if (turns === 2) return [1 - x, 1 - y];
  return turns === 3 ? [y, 1 - x] : [x, y];
}

/** Coefficients of r⁰…r⁴ that best give a function over 0…1, by least squares. */
function fitSeries(of: (r: number) => number): number[] {
  const radii = Array.from({ length: 60 }, (_, i) => (i + 1) / 60);
  const rows = new Matrix(radii.map((r) => [1, r, r * r, r ** 3, r ** 4]));
  return new SingularValueDecomposition(rows, { autoTranspose: true })
    .solve(Matrix.columnVector(radii.map(of)))
    .to1DArray();
}

interface Warp {
  projection: LensProfile['projection'];
  terms: number[];
  centre: [number, number];
  tangential: [number, number];
  red: number[];
  blue: number[];
  /** Focal length in field units that the warp takes for granted, for fisheyes. */
  focal: number | null;
}

function readWarp({ id, data }: Opcode, size: FrameFacts['size'], turns: QuarterTurns): Warp | null {
  const planes = data.getUint32(0);
  const each = id === WARP_FISHEYE ? 4 : 6;
  if ((planes !== 1 && planes !== 3) || data.byteLength < 4 + (planes * each + 2) * 8) return null;
  const sets = Array.from({ length: planes }, (_, p) => doubles(data, 4 + p * each * 8, each));
  const [x, y] = upright(doubles(data, 4 + planes * each * 8, 2) as [number, number], turns);
  const unit = Math.hypot(size.width, size.height) / 2;
  const centre: [number, number] = [((x - 0.5) * size.width) / unit, ((y - 0.5) * size.height) / unit];
  const [halfWidth, halfHeight] = [size.width / 2 / unit, size.height / 2 / unit];
  // The specification counts radii in the distance from the centre to the furthest corner.
  const m = Math.hypot(halfWidth + Math.abs(centre[0]), halfHeight + Math.abs(centre[1]));
  const green = sets[planes === 3 ? 1 : 0];
  if (!(green[0] > 0.05)) return null;
  const radiusOf = (k: readonly number[], r: number): number => {
    const n = r / m;
    const t = id === WARP_FISHEYE ? Math.atan(n) : n;
    return m * t * (k[0] + t * t * (k[1] + t * t * (k[2] + t * t * k[3])));
  };
  const ratio = (k: readonly number[]): number[] =>
    planes === 1
      ? []
      : fitSeries((d) => {
          // Undistorted radius of green at d, by bisection: the map grows over the frame.
          let [low, high] = [0, id === WARP_FISHEYE ? 8 : 1.6];
          for (let i = 0; i < 60; i++) {
            const middle = (low + high) / 2;
            if (radiusOf(green, middle) < d) low = middle;
            else high = middle;
          }
          return radiusOf(k, low) / radiusOf(green, low) - 1;
        });
  const red = ratio(sets[0]);
  const blue = ratio(sets[planes - 1]);
  const [k0, k1, k2, k3] = green;
  if (id === WARP_FISHEYE) {
    const focal = m * k0;
    const terms = [0, (m * k1) / focal ** 3, 0, (m * k2) / focal ** 5, 0, (m * k3) / focal ** 7];
    return { projection: 'equidistant', terms, centre, tangential: [0, 0], red, blue, focal };
  }
  // Scale 1 in the middle: radii are counted in k0 r instead of r.
  const u = m * k0;
  const terms = [0, k1 / k0 / u ** 2, 0, k2 / k0 / u ** 4, 0, k3 / k0 / u ** 6];
  let [p1, p2] = [green[4] / m / k0 ** 2, green[5] / m / k0 ** 2];
  // The shift is a vector: it turns with the picture.
  if (turns === 1) [p1, p2] = [p2, -p1];
  else if (turns === 2) [p1, p2] = [-p1, -p2];
  else if (turns === 3) [p1, p2] = [-p2, p1];
  return { projection: 'rectilinear', terms, centre, tangential: [p1, p2], red, blue, focal: null };
}

type Gain = (x: number, y: number, channel: number) => number;

function readVignette({ data }: Opcode, stored: FrameFacts['size']): Gain | null {
  if (data.byteLength < 56) return null;
  const [k0, k1, k2, k3, k4, cx, cy] = doubles(data, 0, 7);
  const m = Math.hypot(Math.max(cx, 1 - cx) * stored.width, Math.max(cy, 1 - cy) * stored.height);
  return (x, y) => {
    const r2 = (((x - cx) * stored.width) ** 2 + ((y - cy) * stored.height) ** 2) / m ** 2;
    return 1 + r2 * (k0 + r2 * (k1 + r2 * (k2 + r2 * (k3 + r2 * k4))));
  };
}

/** Colours (0, 1, 2) that a gain map acts on, from its plane or from the sites it covers. */
function gainChannels(
  top: number,
  left: number,
  plane: number,
  planes: number,
  pitches: number[],
  pattern: number[] | null
): number[] {
  if (pattern && pitches[0] === 2 && pitches[1] === 2) return [pattern[(top & 1) * 2 + (left & 1)]];
  return [0, 1, 2].filter((c) => pattern !== null || (c >= plane && c < plane + planes));
}

function readGainMap({ data }: Opcode, pattern: number[] | null): { gain: Gain; channels: number[] } | null {
  if (data.byteLength < 76) return null;
  const word = (i: number): number => data.getUint32(i * 4);
  const [rows, columns] = [word(8), word(9)];
  const [spacingV, spacingH, originV, originH] = doubles(data, 40, 4);
  const mapPlanes = data.getUint32(72);
  if (rows < 1 || columns < 1 || rows * columns > 65536 || mapPlanes < 1) return null;
  if (data.byteLength < 76 + rows * columns * mapPlanes * 4) return null;
  const channels = gainChannels(word(0), word(1), word(4), word(5), [word(6), word(7)], pattern);
  const node = (row: number, column: number, plane: number): number =>
    data.getFloat32(
      76 + ((Math.min(row, rows - 1) * columns + Math.min(column, columns - 1)) * mapPlanes + plane) * 4
    );
  return {
    channels,
    gain: (x, y, channel) => {
      const plane = Math.min(mapPlanes - 1, channel);
      const px = Math.min(Math.max(spacingH > 0 ? (x - originH) / spacingH : 0, 0), columns - 1);
      const py = Math.min(Math.max(spacingV > 0 ? (y - originV) / spacingV : 0, 0), rows - 1);
      const [ix, iy] = [Math.floor(px), Math.floor(py)];
      const [fx, fy] = [px - ix, py - iy];
      return (
        (node(iy, ix, plane) * (1 - fx) + node(iy, ix + 1, plane) * fx) * (1 - fy) +
        (node(iy + 1, ix, plane) * (1 - fx) + node(iy + 1, ix + 1, plane) * fx) * fy
      );
    }
  };
}

function gather(gains: { gain: Gain; channels: number[] }[], turns: QuarterTurns): GainMap {
  const values: number[] = [];
  for (let row = 0; row < ROWS; row++) {
    for (let column = 0; column < COLUMNS; column++) {
      // From the upright place back to the stored one: three more quarter turns make a whole one.
      const back = ((4 - turns) % 4) as QuarterTurns;
      const [x, y] = upright([column / (COLUMNS - 1), row / (ROWS - 1)], back);
      for (let c = 0; c < 3; c++) {
        const own = gains.filter(({ channels }) => channels.includes(c));
        const kinds = own.reduce((product, { gain }) => product + Math.log(Math.max(1e-3, gain(x, y, c))), 0);
        // Both greens of a mosaic have maps of their own: their mean counts once.
        const repeats = c === 1 ? Math.max(1, own.filter(({ channels }) => channels.length === 1).length) : 1;
        const shared = own.filter(({ channels }) => channels.length > 1);
        const whole = shared.reduce((sum, { gain }) => sum + Math.log(Math.max(1e-3, gain(x, y, c))), 0);
        values.push(Number(Math.exp(whole + (kinds - whole) / repeats).toFixed(5)));
      }
    }
  }
  return { columns: COLUMNS, rows: ROWS, values };
}

/** All directories of the file, the embedded ones included. */
function flatten(directories: readonly Directory[]): Directory[] {
  return directories.flatMap((directory) => [directory, ...flatten(directory.subIFD ?? [])]);
}

/** The file's own corrections as a profile, or null when it has none that can be used. */
export function dngCorrections(
  bytes: Uint8Array,
  facts: FrameFacts,
  turns: QuarterTurns
): LensProfile | null {
  let directories: Directory[];
  try {
    const copy = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
    directories = flatten(UTIF.decode(copy) as unknown as Directory[]);
  } catch {
    // Not a file of this kind, or a damaged one: then it carries no corrections that could be read.
    return null;
  }
  const holder = directories.find((directory) => OPCODE_LISTS.some((tag) => directory[tag]));
  if (!holder) return null;
  const cfa = holder.t33422 as number[] | undefined;
  const pattern = cfa?.length === 4 ? [...cfa] : null;
  const opcodes = OPCODE_LISTS.flatMap((tag) =>
    holder[tag] ? readOpcodes(Uint8Array.from(holder[tag] as number[])) : []
  );
  const { size } = facts;
  const stored = turns % 2 === 0 ? size : { width: size.height, height: size.width };
  let warp: Warp | null = null;
  const gains: { gain: Gain; channels: number[] }[] = [];
  for (const opcode of opcodes) {
    if (opcode.id === WARP_RECTILINEAR || opcode.id === WARP_FISHEYE)
      warp = readWarp(opcode, size, turns) ?? warp;
    else if (opcode.id === FIX_VIGNETTE_RADIAL) {
      const gain = readVignette(opcode, stored);
      if (gain) gains.push({ gain, channels: [0, 1, 2] });
    } else if (opcode.id === GAIN_MAP) {
      const map = readGainMap(opcode, pattern);
      if (map) gains.push(map);
    }
  }
  if (!warp && gains.length === 0) return null;
  const sensorHalfDiagonal = facts.sensorHalfDiagonal ?? FULL_FRAME_HALF_DIAGONAL;
  const focalLength = facts.focalLength ?? 50;
  const profile = completeProfile({
    id: FILE_PROFILE,
    maker: facts.lensMaker ?? facts.make ?? '',
    lens: facts.lens ?? 'The file’s own corrections',
    sensorHalfDiagonal,
    projection: warp?.projection ?? 'rectilinear',
    distortion: warp
      ? [
          {
            focalLength,
            ...(warp.focal ? { realFocalLength: warp.focal * sensorHalfDiagonal } : {}),
            terms: warp.terms,
            centre: warp.centre,
            tangential: warp.tangential
          }
        ]
      : [],
    lateral: warp && warp.red.length > 0 ? [{ focalLength, red: warp.red, blue: warp.blue }] : [],
    ...(gains.length > 0 ? { gainMap: centred(gather(gains, turns)) } : {})
  });
  return profileFault(profile) === null ? profile : null;
}

/** Gains relative to those of the middle: brightness and colour there are matters of exposure and white balance. */
function centred(map: GainMap): GainMap {
  const middle = [0, 1, 2].map((c) => mapGain(map, 0, 0, c));
  return { ...map, values: map.values.map((value, i) => Number((value / middle[i % 3]).toFixed(5))) };
}
