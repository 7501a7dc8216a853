/** ICC profiles (ICC.1:2010, version 4.3) of matrix and curve, for the spaces that pictures leave in. */
import {
  D65,
  RGB_SPACES,
  type OutputSpace,
  type Transfer,
  rgbToXyz,
  xyzOf
} from '../../colour/rgb-spaces.ts';
import { adaptation } from '../../colour/chromatic-adaptation.ts';
import { D50 } from '../../colour/profile-connection.ts';
import { multiply } from '../../math/matrix3.ts';

/** A tag's bytes: its type, four zeros, and numbers as signed 15.16 fixed point. */
function fixedPoint(type: string, values: readonly number[], head: readonly number[] = []): Uint8Array {
  const out = new DataView(new ArrayBuffer(8 + head.length * 2 + values.length * 4));
  writeAscii(out, 0, type);
  head.forEach((value, i) => out.setUint16(8 + i * 2, value));
  values.forEach((value, i) => out.setInt32(8 + head.length * 2 + i * 4, Math.round(value * 65536)));
  return new Uint8Array(out.buffer);
}

function writeAscii(view: DataView, at: number, text: string): void {
  for (let i = 0; i < text.length; i++) view.setUint8(at + i, text.charCodeAt(i));
}

/** multiLocalizedUnicodeType with one English text. */
function text(content: string): Uint8Array {
  const out = new DataView(new ArrayBuffer(28 + content.length * 2));
  writeAscii(out, 0, 'mluc');
  out.setUint32(8, 1);
  out.setUint32(12, 12);
  writeAscii(out, 16, 'enUS');
  out.setUint32(20, content.length * 2);
  out.setUint32(24, 28);
  for (let i = 0; i < content.length; i++) out.setUint16(28 + i * 2, content.charCodeAt(i));
  return new Uint8Array(out.buffer);
}

/** parametricCurveType: function 0 is a plain power, function 3 has a straight foot. */
const curve = ({ gamma, a, b, c, from }: Transfer): Uint8Array =>
  from === 0 ? fixedPoint('para', [gamma], [0, 0]) : fixedPoint('para', [gamma, a, b, c, from], [3, 0]);

const HEADER = 128;
/** A fixed date, so that the same picture has the same bytes: that of the standard. */
const DATE = [2010, 12, 1, 0, 0, 0];

/** The bytes of a space's profile. */
export function iccProfile(space: OutputSpace): Uint8Array {
  const { name, primaries, transfer } = RGB_SPACES[space];
  const toD50 = adaptation(xyzOf(D65), D50);
  const m = multiply(toD50, rgbToXyz({ primaries }));
  const trc = curve(transfer);
  const tags: [string, Uint8Array][] = [
    ['desc', text(name)],
    ['cprt', text('CC0')],
    ['wtpt', fixedPoint('XYZ ', D50)],
    ['chad', fixedPoint('sf32', toD50)],
    ['rXYZ', fixedPoint('XYZ ', [m[0], m[3], m[6]])],
    ['gXYZ', fixedPoint('XYZ ', [m[1], m[4], m[7]])],
    ['bXYZ', fixedPoint('XYZ ', [m[2], m[5], m[8]])],
    ['rTRC', trc],
    ['gTRC', trc],
    ['bTRC', trc]
  ];
  // Tags may share their bytes; each begins on a multiple of four.
  const places = new Map<Uint8Array, number>();
  let end = HEADER + 4 + tags.length * 12;
  for (const [, bytes] of tags) {
    if (places.has(bytes)) continue;
    places.set(bytes, end);
    end = (end + bytes.length + 3) & ~3;
  }
  const out = new DataView(new ArrayBuffer(end));
  out.setUint32(0, end);
  out.setUint32(8, 0x04300000);
  writeAscii(out, 12, 'mntrRGB XYZ ');
  DATE.forEach((value, i) => out.setUint16(24 + i * 2, value));
  writeAscii(out, 36, 'acsp');
  D50.forEach((value, i) => out.setInt32(68 + i * 4, Math.round(value * 65536)));
  out.setUint32(HEADER, tags.length);
  tags.forEach(([signature, bytes], i) => {
    const at = HEADER + 4 + i * 12;
    writeAscii(out, at, signature);
    out.setUint32(at + 4, places.get(bytes)!);
    out.setUint32(at + 8, bytes.length);
    new Uint8Array(out.buffer).set(bytes, places.get(bytes)!);
  });
  return new Uint8Array(out.buffer);
}
