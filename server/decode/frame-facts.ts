/** Facts of a frame from the tags of its file. */
import exifr from 'exifr';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { SRGB_TO_REC2020 } from '../../core/colour/primaries.ts';

type Tags = Record<string, unknown>;

const text = (value: unknown): string | null => {
  if (typeof value !== 'string') return null;
  // Cameras pad text with NUL and blanks; control characters have no place in an interface or a file name.
  const clean = value.replace(/[\u0000-\u001f\u007f]+/g, ' ').trim();
  return clean === '' ? null : clean.slice(0, 200);
};
const positive = (value: unknown): number | null =>
  typeof value === 'number' && Number.isFinite(value) && value > 0 ? value : null;

/** Millimetres per unit of the focal plane resolution (Exif 2.32, tag 41488). */
const UNIT_MILLIMETRES: Record<number, number> = { 2: 25.4, 3: 10, 4: 1, 5: 0.001 };

/** Exif tags of a file; an empty record where there are none or they cannot be read. */
export async function readTags(bytes: Uint8Array): Promise<Tags> {
  try {
    const tags = await exifr.parse(bytes, {
      tiff: true,
      exif: true,
      gps: true,
      ifd1: false,
      xmp: false,
      icc: false,
      iptc: false,
      jfif: false,
      reviveValues: false,
      translateValues: false,
      sanitize: false
    });
    return (tags as Tags | undefined) ?? {};
  } catch {
    // Unreadable metadata must not keep a picture out.
    return {};
  }
}

/**
 * Facts from Exif tags; `storedWidth` is the width of the stored rows, for the sensor's size. Colours are taken for sRGB's
 * until a raw file says otherwise.
 */
export function factsFromTags(
  tags: Tags,
  base: Pick<FrameFacts, 'format' | 'rendering' | 'size'>,
  storedWidth: number
): FrameFacts {
  const resolution = positive(tags.FocalPlaneXResolution);
  const unit = UNIT_MILLIMETRES[Number(tags.FocalPlaneResolutionUnit ?? 2)];
  // The resolution is that of the picture as taken: it says nothing once the picture has been resized.
  const takenWidth = positive(tags.ExifImageWidth) ?? storedWidth;
  const fits = takenWidth === storedWidth || takenWidth === base.size.width;
  const { width, height } = base.size;
  const sensorWidth = resolution && unit && fits ? (storedWidth / resolution) * unit : null;
  const latitude = Number(tags.latitude);
  const longitude = Number(tags.longitude);
  const located = tags.latitude !== undefined && Number.isFinite(latitude) && Number.isFinite(longitude);
  return {
    ...base,
    make: text(tags.Make),
    model: text(tags.Model),
    lensMaker: text(tags.LensMake),
    lens: text(tags.LensModel) ?? text(tags.Lens),
    focalLength: positive(tags.FocalLength),
    focalLength35: positive(tags.FocalLengthIn35mmFormat),
    aperture: positive(tags.FNumber),
    // Cameras write the largest number for "very far".
    distance: Number(tags.SubjectDistance) < 1e5 ? positive(tags.SubjectDistance) : null,
    exposureTime: positive(tags.ExposureTime),
    iso: positive(Array.isArray(tags.ISO) ? tags.ISO[0] : tags.ISO),
    taken: text(tags.DateTimeOriginal) ?? text(tags.CreateDate) ?? text(tags.ModifyDate),
    artist: text(tags.Artist),
    copyright: text(tags.Copyright),
    sensorHalfDiagonal: sensorWidth ? ((sensorWidth / storedWidth) * Math.hypot(width, height)) / 2 : null,
    toWorking: SRGB_TO_REC2020,
    white: null,
    corrections: null,
    position: located ? { latitude, longitude } : null
  };
}
