/**
 * Writes a DNG (Adobe Digital Negative 1.4, an open specification over TIFF 6.0 and Exif 2.32): one
 * uncompressed 16-bit Bayer picture with the tags a raw library needs, and a small picture for viewing.
 */
import type { Matrix3 } from '../../core/math/matrix3.ts';
import type { Vector3 } from '../../core/math/vector3.ts';
import type { Capture } from './capture.ts';
import { BLACK, WHITE } from './capture.ts';
import { viewingPicture } from './viewing-picture.ts';
import { WHITE_RESPONSE, XYZ_TO_CAMERA } from './colour.ts';

export interface DngFacts {
  make: string;
  model: string;
  /** Left out for a manual lens. */
  lensMaker?: string;
  lens?: string;
  focalLength?: number;
  aperture?: number;
  /** Shortest and longest focal length, and largest aperture at each. */
  lensRange?: [number, number, number, number];
  exposureTime: [number, number];
  iso: number;
  /** "YYYY:MM:DD hh:mm:ss" */
  taken: string;
  artist?: string;
  copyright?: string;
  /** Corrections for the lens, applied after demosaicing: a list of opcodes (DNG specification, chapter 7). */
  opcodes?: Uint8Array;
  /** How the camera sees colours, in place of the demo camera's own one matrix for D65. */
  colours?: DngColours;
  /** Degrees; north and east positive. */
  position?: { latitude: number; longitude: number };
}

/** Colours of a camera as a file tells them (DNG specification 1.6, chapter 4). */
export interface DngColours {
  /** The sensor's response to the white as shot. */
  neutral: Vector3;
  /** One or two lights, by their codes (Exif 2.32, tag 37384). */
  lights: readonly { code: number; matrix: Matrix3; calibration?: Matrix3; forward?: Matrix3 }[];
  analogBalance?: Vector3;
  /** Of the calibrations, and of the profile that they are meant for. */
  signatures?: readonly [string, string];
}

type Tag = { tag: number; type: number; count: number; bytes: Uint8Array };

const TYPE = { byte: 1, ascii: 2, short: 3, long: 4, rational: 5, undefined: 7, signedRational: 10 } as const;

function view(size: number): { bytes: Uint8Array; data: DataView } {
  const bytes = new Uint8Array(size);
  return { bytes, data: new DataView(bytes.buffer) };
}

const ascii = (tag: number, text: string): Tag => {
  const bytes = new TextEncoder().encode(text + '\0');
  return { tag, type: TYPE.ascii, count: bytes.length, bytes };
};
const bytesTag = (tag: number, values: number[], type: number = TYPE.byte): Tag => ({
  tag,
  type,
  count: values.length,
  bytes: Uint8Array.from(values)
});
const shorts = (tag: number, ...values: number[]): Tag => {
  const { bytes, data } = view(values.length * 2);
  values.forEach((value, i) => data.setUint16(i * 2, value, true));
  return { tag, type: TYPE.short, count: values.length, bytes };
};
const longs = (tag: number, ...values: number[]): Tag => {
  const { bytes, data } = view(values.length * 4);
  values.forEach((value, i) => data.setUint32(i * 4, value, true));
  return { tag, type: TYPE.long, count: values.length, bytes };
};
const fractions = (tag: number, values: [number, number][], signed = false): Tag => {
  const { bytes, data } = view(values.length * 8);
  values.forEach(([above, below], i) => {
    data.setInt32(i * 8, above, true);
    data.setInt32(i * 8 + 4, below, true);
  });
  return { tag, type: signed ? TYPE.signedRational : TYPE.rational, count: values.length, bytes };
};
const decimal = (value: number, below = 10000): [number, number] => [Math.round(value * below), below];

/** Lays out one directory at an offset: entries, the place of the next, then the values that do not fit into the entries. */
function directory(tags: Tag[], offset: number, next = 0): Uint8Array {
  const sorted = [...tags].sort((a, b) => a.tag - b.tag);
  const head = 2 + sorted.length * 12 + 4;
  const size = sorted.reduce((sum, t) => sum + (t.bytes.length > 4 ? (t.bytes.length + 1) & ~1 : 0), head);
  const { bytes, data } = view(size);
  data.setUint16(0, sorted.length, true);
  data.setUint32(head - 4, next, true);
  let free = head;
  sorted.forEach((t, i) => {
    const at = 2 + i * 12;
    data.setUint16(at, t.tag, true);
    data.setUint16(at + 2, t.type, true);
    data.setUint32(at + 4, t.count, true);
    if (t.bytes.length <= 4) bytes.set(t.bytes, at + 8);
    else {
      data.setUint32(at + 8, offset + free, true);
      bytes.set(t.bytes, free);
      free += (t.bytes.length + 1) & ~1;
    }
  });
  return bytes;
}

function exifTags(facts: DngFacts, width: number, uprightWidth: number): Tag[] {
  // A 36 mm wide sensor; the resolution is that of the stored rows.
  const perCentimetre = decimal(width / 3.6, 1000);
  const tags = [
    fractions(33434, [facts.exposureTime]),
    shorts(34855, facts.iso),
    bytesTag(36864, [48, 50, 51, 50], TYPE.undefined),
    ascii(36867, facts.taken),
    fractions(41486, [perCentimetre]),
    fractions(41487, [perCentimetre]),
    shorts(41488, 3),
    longs(40962, uprightWidth)
  ];
  if (facts.aperture) tags.push(fractions(33437, [decimal(facts.aperture, 10)]));
  if (facts.focalLength) {
    tags.push(
      fractions(37386, [decimal(facts.focalLength, 10)]),
      shorts(41989, Math.round(facts.focalLength))
    );
  }
  if (facts.lens) tags.push(ascii(42036, facts.lens));
  if (facts.lensMaker) tags.push(ascii(42035, facts.lensMaker));
  if (facts.lensRange)
    tags.push(
      fractions(
        42034,
        facts.lensRange.map((value) => decimal(value, 10))
      )
    );
  return tags;
}

const OWN_COLOURS: DngColours = { neutral: WHITE_RESPONSE, lights: [{ code: 21, matrix: XYZ_TO_CAMERA }] };

const numbers = (tag: number, values: readonly number[], below?: number): Tag =>
  fractions(
    tag,
    values.map((value) => decimal(value, below)),
    true
  );

function colourTags({ neutral, lights, analogBalance, signatures }: DngColours): Tag[] {
  return [
    ...lights.flatMap(({ code, matrix, calibration, forward }, i) => [
      numbers(50721 + i, matrix),
      ...(calibration ? [numbers(50723 + i, calibration)] : []),
      ...(forward ? [numbers(50964 + i, forward)] : []),
      shorts(50778 + i, code)
    ]),
    ...(analogBalance ? [numbers(50727, analogBalance)] : []),
    fractions(
      50728,
      neutral.map((value) => decimal(value / neutral[1], 1000000))
    ),
    ...(signatures ? [ascii(50931, signatures[0]), ascii(50932, signatures[1])] : [])
  ];
}

function gpsTags({ latitude, longitude }: { latitude: number; longitude: number }): Tag[] {
  const parts = (value: number): [number, number][] => {
    const degrees = Math.floor(Math.abs(value));
    const minutes = Math.floor((Math.abs(value) - degrees) * 60);
    const seconds = ((Math.abs(value) - degrees) * 60 - minutes) * 60;
    return [[degrees, 1], [minutes, 1], decimal(seconds, 100)];
  };
  return [
    bytesTag(0, [2, 3, 0, 0]),
    ascii(1, latitude < 0 ? 'S' : 'N'),
    fractions(2, parts(latitude)),
    ascii(3, longitude < 0 ? 'W' : 'E'),
    fractions(4, parts(longitude))
  ];
}

const ORIENTATION = [1, 6, 3, 8];

/** The bytes of a DNG file. */
export function writeDng(picture: Capture, facts: DngFacts): Uint8Array {
  const { width, height, turns, data } = picture;
  const main = (stripOffset: number, exifOffset: number, gpsOffset: number): Tag[] => [
    longs(254, 0),
    longs(256, width),
    longs(257, height),
    shorts(258, 16),
    shorts(259, 1),
    shorts(262, 32803),
    ascii(271, facts.make),
    ascii(272, facts.model),
    longs(273, stripOffset),
    shorts(274, ORIENTATION[turns]),
    shorts(277, 1),
    longs(278, height),
    longs(279, data.length * 2),
    shorts(284, 1),
    ascii(305, 'Line True demo camera'),
    ascii(306, facts.taken),
    ...(facts.artist ? [ascii(315, facts.artist)] : []),
    ...(facts.copyright ? [ascii(33432, facts.copyright)] : []),
    shorts(33421, 2, 2),
    bytesTag(33422, [0, 1, 1, 2]),
    longs(34665, exifOffset),
    ...(facts.position ? [longs(34853, gpsOffset)] : []),
    bytesTag(50706, [1, 4, 0, 0]),
    bytesTag(50707, [1, 1, 0, 0]),
    ascii(50708, `${facts.make} ${facts.model}`),
    bytesTag(50710, [0, 1, 2]),
    shorts(50711, 1),
    shorts(50714, BLACK),
    shorts(50717, WHITE),
    ...colourTags(facts.colours ?? OWN_COLOURS),
    ...(facts.opcodes
      ? [{ tag: 51022, type: TYPE.undefined, count: facts.opcodes.length, bytes: facts.opcodes }]
      : [])
  ];
  const align = (offset: number): number => (offset + 15) & ~15;
  const exif = exifTags(facts, width, turns % 2 === 0 ? width : height);
  const gps = facts.position ? gpsTags(facts.position) : null;
  const mainOffset = 8;
  const exifOffset = align(mainOffset + directory(main(0, 0, 0), mainOffset).length);
  const gpsOffset = align(exifOffset + directory(exif, exifOffset).length);
  const stripOffset = align(gpsOffset + (gps ? directory(gps, gpsOffset).length : 0));
  // Behind the sensor's picture stands the small one for viewing.
  const small = viewingPicture(picture);
  const smallStrip = align(stripOffset + data.length * 2);
  const smallOffset = align(smallStrip + small.rgb.length);
  const smallTags = [
    longs(254, 1),
    longs(256, small.width),
    longs(257, small.height),
    shorts(258, 8, 8, 8),
    shorts(259, 1),
    shorts(262, 2),
    longs(273, smallStrip),
    shorts(274, ORIENTATION[turns]),
    shorts(277, 3),
    longs(278, small.height),
    longs(279, small.rgb.length),
    shorts(284, 1)
  ];
  const smallDirectory = directory(smallTags, smallOffset);
  const file = new Uint8Array(smallOffset + smallDirectory.length);
  file.set([0x49, 0x49, 42, 0, mainOffset, 0, 0, 0]);
  file.set(directory(main(stripOffset, exifOffset, gpsOffset), mainOffset, smallOffset), mainOffset);
  file.set(small.rgb, smallStrip);
  file.set(smallDirectory, smallOffset);
  file.set(directory(exif, exifOffset), exifOffset);
  if (gps) file.set(directory(gps, gpsOffset), gpsOffset);
  file.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), stripOffset);
  return file;
}
