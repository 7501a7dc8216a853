/** Raw files through LibRaw: the mosaic of a Bayer sensor, or LibRaw's own linear picture of any other. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { SRGB_TO_REC2020 } from '../../core/colour/primaries.ts';
import { IDENTITY, type Matrix3, multiply } from '../../core/math/matrix3.ts';
import type { Mosaic, QuarterTurns, SiteColour } from '../../core/picture/raw/mosaic.ts';
import { MOST_PIXELS, tooLarge } from './most-pixels.ts';
import { UserError } from '../user-error.ts';

interface LibRawMetadata {
  flip: number;
  camera_make: string;
  camera_model: string;
  iso_speed: number;
  shutter: number;
  aperture: number;
  focal_len: number;
  timestamp: number;
  artist: string;
  filters: number;
  cdesc: string;
  colors: number;
  is_foveon: number;
  color_data: {
    black: number;
    maximum: number;
    cam_mul: number[];
    pre_mul: number[];
    rgb_cam: number[][];
    /** XYZ to the sensor's colours. */
    cam_xyz?: number[][];
  };
  lens: { Lens: string; LensMake: string; FocalLengthIn35mmFormat: number };
}

interface LibRawInstance {
  open(bytes: Uint8Array, settings: object): void;
  metadata(full: boolean): LibRawMetadata | undefined;
  rawImageData():
    | {
        raw_width: number;
        raw_height: number;
        width: number;
        height: number;
        top_margin: number;
        left_margin: number;
        data: Uint16Array;
      }
    | undefined;
  imageData():
    | { width: number; height: number; colors: number; bits: number; data: Uint8Array | Uint16Array }
    | undefined;
  delete(): void;
}

interface LibRawModule {
  LibRaw: new () => LibRawInstance;
}
type Factory = (options: { wasmBinary: Uint8Array }) => Promise<LibRawModule>;

const require = createRequire(import.meta.url);
let loaded: Promise<LibRawModule> | null = null;

async function load(): Promise<LibRawModule> {
  const wasmBinary = readFileSync(require.resolve('libraw-wasm/dist/libraw.wasm'));
  const { default: create } = (await import('libraw-wasm/dist/libraw.js' as string)) as { default: Factory };
  return create({ wasmBinary });
}

/**
 * Works with an instance of its own. The module stays for the next file, since its memory would never be given back; only
 * one that broke down (rather than refused a file) is replaced.
 */
async function withLibRaw<T>(work: (raw: LibRawInstance) => T): Promise<T> {
  let raw: LibRawInstance | null = null;
  try {
    raw = new (await (loaded ??= load())).LibRaw();
    return work(raw);
  } catch (error) {
    if (error instanceof WebAssembly.RuntimeError || raw === null) [loaded, raw] = [null, null];
    throw error;
  } finally {
    raw?.delete();
  }
}

export interface LinearPicture {
  width: number;
  height: number;
  /** Interleaved linear Rec.2020, 0..65535. */
  rgb: Uint16Array;
}

export interface RawFile {
  metadata: LibRawMetadata;
  storedWidth: number;
  /** The picture's colours to linear Rec.2020; rows sum to 1, so that white stays white. */
  toWorking: Matrix3;
  turns: QuarterTurns;
  picture: { kind: 'mosaic'; mosaic: Mosaic } | { kind: 'linear'; linear: LinearPicture };
}

/** Clockwise quarter turns for LibRaw's flip code. */
function quarterTurns(flip: number): QuarterTurns {
  return flip === 3 ? 2 : flip === 5 ? 3 : flip === 6 ? 1 : 0;
}

/** Colours of the first 2 x 2 active sites, or null when the sensor is not a 2 x 2 Bayer one. */
function bayerPattern({ filters, cdesc, colors, is_foveon }: LibRawMetadata): Mosaic['pattern'] | null {
  // Codes below 1000 stand for other layouts; a Bayer code repeats every two rows.
  if (is_foveon || colors !== 3 || filters < 1000) return null;
  const at = (row: number, column: number): number =>
    (filters >>> ((((row << 1) & 14) + (column & 1)) << 1)) & 3;
  for (let row = 2; row < 8; row++) {
    for (let column = 0; column < 2; column++) {
      if (cdesc[at(row, column)] !== cdesc[at(row & 1, column)]) return null;
    }
  }
  const colour = (row: number, column: number): SiteColour =>
    'RGB'.indexOf(cdesc[at(row, column)]) as SiteColour;
  const pattern: Mosaic['pattern'] = [colour(0, 0), colour(0, 1), colour(1, 0), colour(1, 1)];
  return [...pattern].sort().join('') === '0112' ? pattern : null;
}

export function whiteBalance({ color_data: { cam_mul, pre_mul } }: LibRawMetadata): [number, number, number] {
  const usable = (m: number[]): boolean => [0, 1, 2].every((i) => Number.isFinite(m[i]) && m[i] > 0);
  const m = usable(cam_mul) ? cam_mul : usable(pre_mul) ? pre_mul : [1, 1, 1];
  const least = Math.min(m[0], m[1], m[2]);
  return [m[0] / least, m[1] / least, m[2] / least];
}

const CANNOT_READ =
  'This raw file cannot be read: it is damaged, cut short, or of a kind the raw library does not know. Copy it from the card again.';

function openMosaic(raw: LibRawInstance, metadata: LibRawMetadata, pattern: Mosaic['pattern']): RawFile {
  const sensor = raw.rawImageData();
  if (!sensor || sensor.data.length < sensor.raw_width * sensor.raw_height) throw new UserError(CANNOT_READ);
  const { raw_width: stride, left_margin: left, top_margin: top, width, height } = sensor;
  const { black, maximum, rgb_cam } = metadata.color_data;
  const toSrgb = rgb_cam.slice(0, 3).flatMap((row) => row.slice(0, 3)) as Matrix3;
  const mosaic: Mosaic = {
    data: sensor.data,
    stride,
    left,
    top,
    width,
    height,
    pattern,
    black,
    white: maximum > black ? maximum : 65535,
    multipliers: whiteBalance(metadata),
    turns: quarterTurns(metadata.flip)
  };
  return {
    metadata,
    storedWidth: width,
    toWorking: multiply(SRGB_TO_REC2020, toSrgb),
    turns: mosaic.turns,
    picture: { kind: 'mosaic', mosaic }
  };
}

/** LibRaw's own demosaicing, for sensors other than Bayer: slower, but any layout. */
async function openOther(bytes: Uint8Array, metadata: LibRawMetadata): Promise<RawFile> {
  const image = await withLibRaw((raw) => {
    raw.open(bytes, { outputBps: 16, gamm: [1, 1], noAutoBright: true, useCameraWb: true, outputColor: 8 });
    return raw.imageData();
  });
  if (!image || image.bits !== 16) throw new UserError(CANNOT_READ);
  const { width, height, colors, data } = image;
  const values = data instanceof Uint16Array ? data : new Uint16Array(data.slice().buffer);
  const rgb = new Uint16Array(width * height * 3);
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) rgb[i * 3 + c] = values[i * colors + Math.min(c, colors - 1)];
  }
  const turned = quarterTurns(metadata.flip) % 2 === 1;
  return {
    metadata,
    storedWidth: turned ? height : width,
    toWorking: IDENTITY,
    turns: quarterTurns(metadata.flip),
    picture: { kind: 'linear', linear: { width, height, rgb } }
  };
}

/** Width and height a TIFF-based file claims for its largest picture would be checked by LibRaw; this bounds memory first. */
function refuseHuge(raw: LibRawInstance): LibRawMetadata {
  const metadata = raw.metadata(true);
  const sizes = metadata as unknown as { raw_width: number; raw_height: number } | undefined;
  if (!metadata || !sizes) throw new UserError(CANNOT_READ);
  if (sizes.raw_width * sizes.raw_height > MOST_PIXELS) {
    throw new UserError(tooLarge(sizes.raw_width, sizes.raw_height));
  }
  return metadata;
}

/** Opens a raw file; throws a UserError when it is none or damaged. */
export async function openRaw(bytes: Uint8Array): Promise<RawFile> {
  try {
    const { metadata, mosaic } = await withLibRaw((raw) => {
      raw.open(bytes, {});
      const metadata = refuseHuge(raw);
      const pattern = bayerPattern(metadata);
      return { metadata, mosaic: pattern && openMosaic(raw, metadata, pattern) };
    });
    return mosaic ?? (await openOther(bytes, metadata));
  } catch (error) {
    if (error instanceof UserError) throw error;
    // LibRaw throws C++ exception objects without a message.
    throw new UserError(CANNOT_READ);
  }
}
