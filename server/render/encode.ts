/** Pixels to a file with its colour profile, and as much of the metadata as is wanted. */
import sharp, { type Exif, type Sharp, type TiffOptions } from 'sharp';
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { OutputSpace } from '../../core/colour/rgb-spaces.ts';
import type { Deliverable, OutputFormat } from '../../core/picture/output/deliverable-schema.ts';
import { iccProfile } from '../../core/picture/output/icc-profile.ts';
import { tiffContainer } from './tiff-container.ts';
import { type Rights, xmpPacket } from './xmp.ts';

export interface EncodeOptions {
  format: OutputFormat;
  /** Quality, 1..100, of formats that have one. */
  quality: number;
  /** Pixels per inch, written to the file. */
  ppi: number;
  /** Write the place the picture was taken. */
  keepPosition: boolean;
  /** Space of the pixels' colours (default sRGB). */
  space?: OutputSpace;
  /** What goes along: nothing, who made it and holds the rights, or all the camera said as well (default). */
  metadata?: Deliverable['metadata'];
  /** Texts in place of the file's own. */
  rights?: Rights;
}

function fraction(value: number): string {
  if (value >= 1 && Number.isInteger(value)) return `${value}/1`;
  if (value < 1 && Math.abs(1 / value - Math.round(1 / value)) < 0.02 / value)
    return `1/${Math.round(1 / value)}`;
  return `${Math.round(value * 1000)}/1000`;
}

function degrees(value: number): string {
  const total = Math.abs(value);
  const whole = Math.floor(total);
  const minutes = Math.floor((total - whole) * 60);
  const seconds = (total - whole - minutes / 60) * 3600;
  return `${whole}/1 ${minutes}/1 ${Math.round(seconds * 1000)}/1000`;
}

/** Exif tags in the form the encoder takes: directory by directory, as text. */
export function exifOf(facts: FrameFacts, keepPosition: boolean, rightsOnly = false): Exif {
  const only = (tags: Record<string, string | 0 | null | undefined>): Record<string, string> =>
    Object.fromEntries(Object.entries(tags).filter((entry): entry is [string, string] => Boolean(entry[1])));
  const exif: Exif = {
    IFD0: only({
      Artist: facts.artist,
      Copyright: facts.copyright,
      ...(rightsOnly
        ? {}
        : { Make: facts.make, Model: facts.model, Software: 'Line True', DateTime: facts.taken })
    })
  };
  if (!rightsOnly)
    exif.IFD2 = only({
      ExposureTime: facts.exposureTime && fraction(facts.exposureTime),
      FNumber: facts.aperture && fraction(facts.aperture),
      ISOSpeedRatings: facts.iso && String(facts.iso),
      FocalLength: facts.focalLength && fraction(facts.focalLength),
      FocalLengthIn35mmFilm: facts.focalLength35 && String(Math.round(facts.focalLength35)),
      LensMake: facts.lensMaker,
      LensModel: facts.lens,
      DateTimeOriginal: facts.taken
    });
  if (keepPosition && facts.position) {
    const { latitude, longitude } = facts.position;
    exif.IFD3 = {
      GPSLatitudeRef: latitude < 0 ? 'S' : 'N',
      GPSLatitude: degrees(latitude),
      GPSLongitudeRef: longitude < 0 ? 'W' : 'E',
      GPSLongitude: degrees(longitude)
    };
  }
  return exif;
}

/** Makes a file of a quality, as often as it takes. */
export type Encoder = (quality: number) => Promise<Buffer>;

/** Files of interleaved RGB; 16-bit pixels need TIFF or PNG. */
export function encoderOf(
  pixels: Uint8Array | Uint16Array,
  size: FrameSize,
  facts: FrameFacts,
  { format, ppi, keepPosition, space = 'srgb', metadata = 'all', rights }: Omit<EncodeOptions, 'quality'>
): Encoder {
  const told: FrameFacts = {
    ...facts,
    artist: rights?.creator || facts.artist,
    copyright: rights?.copyright || facts.copyright
  };
  const withTexts = (image: Sharp): Sharp => {
    if (metadata === 'none') return image;
    const packet =
      rights && xmpPacket({ ...rights, creator: told.artist ?? '', copyright: told.copyright ?? '' });
    const tagged = image.withExif(exifOf(told, keepPosition, metadata === 'rights'));
    return packet ? tagged.withXmp(packet) : tagged;
  };
  const deep = pixels instanceof Uint16Array;
  if (deep && format !== 'png' && format !== 'tiff')
    throw new Error(`${format} holds 8 bits per channel here.`);
  const contained = tiffContainer(pixels, size, iccProfile(space), ppi);
  return (quality) => {
    const image = sharp(contained, { ignoreIcc: true, limitInputPixels: false }).keepIccProfile();
    const tagged = withTexts(deep ? image.toColourspace('rgb16') : image);
    return inFormat(tagged, format, { quality, ppi, large: size.width * size.height > LARGE }).toBuffer();
  };
}

/** Pixels from which on a JPEG's codes are not fitted to the picture: its file is 5 % larger, in a third of the time. */
const LARGE = 8e6;

function inFormat(
  image: Sharp,
  format: OutputFormat,
  { quality, ppi, large }: { quality: number; ppi: number; large: boolean }
): Sharp {
  const subsampled = quality >= 90 ? '4:4:4' : '4:2:0';
  switch (format) {
    case 'jpeg':
      return image.jpeg({ quality, chromaSubsampling: subsampled, optimiseCoding: !large });
    case 'webp':
      return image.webp({ quality });
    case 'avif':
      return image.avif({ quality, chromaSubsampling: subsampled, effort: 3 });
    case 'png':
      return image.png(PNG);
    case 'tiff':
      return image.tiff(tiffOptions(ppi));
  }
}

const PNG = { compressionLevel: 6 };

/** Resolution in pixels per millimetre, as the encoder takes it. */
const tiffOptions = (ppi: number): TiffOptions => ({
  compression: 'deflate',
  predictor: 'horizontal',
  xres: ppi / 25.4,
  yres: ppi / 25.4
});
