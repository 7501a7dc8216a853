/** Any accepted file to sensor values or a linear picture, with its facts. */
import sharp from 'sharp';
import type { LateralEdge } from '../../core/measure/lateral/measure-edges.ts';
import { type Mosaic, orientedSize } from '../../core/picture/raw/mosaic.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { measureNoise } from '../../core/picture/raw/measure-noise.ts';
import { cameraWhite } from './camera-white.ts';
import { dngCorrections } from './dng-corrections.ts';
import { factsFromTags, readTags } from './frame-facts.ts';
import { openRaw, whiteBalance } from './libraw.ts';
import { MOST_PIXELS, tooLarge } from './most-pixels.ts';
import { type MatrixProfile, matrixProfile, recoded } from './icc-matrix.ts';
import { UserError } from '../user-error.ts';

export type Decoded =
  | { facts: FrameFacts; kind: 'mosaic'; mosaic: Mosaic; edges?: LateralEdge[] }
  | {
      facts: FrameFacts;
      kind: 'codes';
      /** Interleaved red, green and blue, linear or as sRGB encodes them. */
      data: Uint16Array;
      encoding: 'linear' | 'srgb';
    };

export type FileKind = 'jpeg' | 'png' | 'tiff' | 'raw';

const RAW_ENDINGS =
  /\.(3fr|arw|bay|cap|cr2|cr3|crw|dcr|dng|eip|erf|fff|gpr|iiq|k25|kdc|mdc|mef|mos|mrw|nef|nrw|orf|pef|ptx|raf|raw|rw2|rwl|rwz|sr2|srf|srw|x3f)$/i;
const PICTURE_ENDINGS = /\.(jpe?g|png|tiff?)$/i;

/** Largest file taken in, in bytes: raw files of the largest sensors stay below it. */
export const MOST_BYTES = 512 * 1024 * 1024;

const startsWith = (bytes: Uint8Array, ...head: number[]): boolean =>
  head.every((value, i) => bytes[i] === value);

/** What a file is, from its first bytes, and its name where raw files are TIFF files by their bytes. */
export function fileKind(bytes: Uint8Array, name: string): FileKind {
  if (bytes.length === 0) throw new UserError('This file is empty. Copy it from the card again.');
  if (bytes.length > MOST_BYTES) {
    throw new UserError(
      `This file is ${Math.round(bytes.length / 1048576)} MB; the largest that can be opened is 512 MB.`
    );
  }
  if (startsWith(bytes, 0xff, 0xd8, 0xff)) return 'jpeg';
  if (startsWith(bytes, 0x89, 0x50, 0x4e, 0x47)) return 'png';
  const tiff = startsWith(bytes, 0x49, 0x49, 42, 0) || startsWith(bytes, 0x4d, 0x4d, 0, 42);
  if (tiff && PICTURE_ENDINGS.test(name)) return 'tiff';
  // The first bytes of raw files are of many kinds: the library decides. Plain text is told apart at once.
  const head = bytes.subarray(0, 512);
  if (!head.some((value) => value === 0 || value > 127) && !tiff) {
    throw new UserError('This is a text file, not a picture.');
  }
  if (!tiff && !RAW_ENDINGS.test(name)) {
    throw new UserError('This is no picture file that can be opened: raw files, JPEG, PNG and TIFF can.');
  }
  return 'raw';
}

async function decodeRaw(bytes: Uint8Array, name: string): Promise<Decoded> {
  const { metadata: m, storedWidth, toWorking, turns, picture } = await openRaw(bytes);
  const size =
    picture.kind === 'mosaic'
      ? orientedSize(picture.mosaic)
      : { width: picture.linear.width, height: picture.linear.height };
  const format = /\.([^.]+)$/.exec(name)?.[1].toUpperCase() ?? 'RAW';
  const tags = await readTags(bytes);
  const facts = factsFromTags(tags, { format, rendering: 'scene', size }, storedWidth);
  // The raw library knows what makers hide in notes of their own; plain tags come first where both speak.
  const known = (value: number): number | null => (value > 0 && Number.isFinite(value) ? value : null);
  facts.make ??= m.camera_make || null;
  facts.model ??= m.camera_model || null;
  facts.lens ??= m.lens.Lens || null;
  facts.lensMaker ??= m.lens.LensMake || null;
  facts.focalLength ??= known(m.focal_len);
  facts.focalLength35 ??= known(m.lens.FocalLengthIn35mmFormat);
  facts.aperture ??= known(m.aperture);
  facts.exposureTime ??= known(m.shutter);
  facts.iso ??= known(m.iso_speed);
  facts.artist ??= m.artist || null;
  facts.toWorking = toWorking;
  // The raw library balanced its own pictures by itself.
  if (picture.kind === 'mosaic') facts.white = cameraWhite(tags, m.color_data.cam_xyz, whiteBalance(m));
  if (picture.kind === 'mosaic') facts.noise = picture.mosaic.noise = measureNoise(picture.mosaic);
  facts.corrections = dngCorrections(bytes, facts, turns);
  return picture.kind === 'mosaic'
    ? { facts, kind: 'mosaic', mosaic: picture.mosaic }
    : { facts, kind: 'codes', data: picture.linear.rgb, encoding: 'linear' };
}

/** Codes of 8 bits as those of 16. */
function widened(codes: Uint8Array): Uint16Array {
  const out = new Uint16Array(codes.length);
  for (let i = 0; i < out.length; i++) out[i] = codes[i] * 257;
  return out;
}

/** Colours as the file's own profile has them, in its primaries and by sRGB's curve. */
function recode(rgb: Uint16Array, curves: MatrixProfile['curves']): void {
  curves.forEach((curve, c) => {
    const table = recoded(curve);
    if (table) for (let i = c; i < rgb.length; i += 3) rgb[i] = table[rgb[i]];
  });
}

async function decodePicture(bytes: Uint8Array, kind: FileKind, asSrgb: boolean): Promise<Decoded> {
  const options = { limitInputPixels: false, failOn: 'warning' } as const;
  let data: Uint16Array;
  let profile: MatrixProfile | null = null;
  let info: { width: number; height: number; channels: number };
  try {
    const metadata = await sharp(bytes, options).metadata();
    // What a header claims is known before anything is taken for it.
    if (metadata.width * metadata.height > MOST_PIXELS)
      throw new UserError(tooLarge(metadata.width, metadata.height));
    const grey = metadata.space === 'grey16' || metadata.space === 'b-w';
    if (metadata.icc && !grey && !asSrgb) profile = matrixProfile(metadata.icc);
    const image = sharp(bytes, { ...options, ignoreIcc: profile !== null })
      .autoOrient()
      .flatten({ background: '#fff' });
    // Asked for 16 bits, the library would move codes of 8 by up to one.
    const eight = metadata.depth === 'uchar';
    const raw = await image
      .toColourspace(grey ? (eight ? 'b-w' : 'grey16') : eight ? 'srgb' : 'rgb16')
      .raw({ depth: eight ? 'uchar' : 'ushort' })
      .toBuffer({ resolveWithObject: true });
    info = raw.info;
    data = eight
      ? widened(raw.data)
      : new Uint16Array(raw.data.buffer, raw.data.byteOffset, raw.data.length / 2);
  } catch (error) {
    if (error instanceof UserError) throw error;
    const reason = error instanceof Error ? error.message.split('\n')[0] : 'unknown error';
    throw new UserError(
      `This ${kind.toUpperCase()} file cannot be read: it is damaged or cut short (${reason}). Save or copy it again.`
    );
  }
  const { width, height, channels } = info;
  const rgb = channels === 3 ? data : new Uint16Array(width * height * 3);
  if (channels < 3) for (let i = 0; i < rgb.length; i++) rgb[i] = data[Math.floor(i / 3) * channels];
  const base = { format: kind.toUpperCase(), rendering: 'display' as const, size: { width, height } };
  const facts = factsFromTags(await readTags(bytes), base, width);
  if (!asSrgb) facts.ownColours = true;
  if (profile) {
    facts.toWorking = profile.toWorking;
    recode(rgb, profile.curves);
  }
  return { facts, kind: 'codes', data: rgb, encoding: 'srgb' };
}

export interface DecodeOptions {
  /** Finished pictures within sRGB, whatever their profile says: as frames were read that do not have `ownColours`. */
  asSrgb?: boolean;
}

/** Decodes a file; `name` is only used to tell formats apart. Throws a UserError with what to do about it. */
export async function decodeFile(
  bytes: Uint8Array,
  name: string,
  { asSrgb = false }: DecodeOptions = {}
): Promise<Decoded> {
  const kind = fileKind(bytes, name);
  const decoded = kind === 'raw' ? await decodeRaw(bytes, name) : await decodePicture(bytes, kind, asSrgb);
  const { width, height } = decoded.facts.size;
  if (width < 16 || height < 16)
    throw new UserError(`This picture is only ${width} x ${height} pixels: too small to work on.`);
  return decoded;
}
