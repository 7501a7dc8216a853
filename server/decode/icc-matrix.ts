/** Colours of finished pictures by the profile that they carry, where it is one of matrix and curves (ICC.1:2022, 8.3). */
import { D50_TO_REC2020 } from '../../core/colour/profile-connection.ts';
import { srgbDecode, srgbEncode } from '../../core/colour/srgb-transfer.ts';
import { type Matrix3, multiply, rowSums, withRowsOfOne } from '../../core/math/matrix3.ts';

export interface MatrixProfile {
  /** Linear colours of the profile to linear Rec.2020; rows sum to 1. */
  toWorking: Matrix3;
  /** Encoded red, green and blue, 0..1, to linear ones. */
  curves: [Curve, Curve, Curve];
}

type Curve = (encoded: number) => number;

/** Entries of the longest curve that is taken. */
const MOST_ENTRIES = 65536;
/** Parameters of parametricCurveType by its function: g, a, b, c, d, e, f. */
const PARAMETERS = [1, 3, 4, 5, 7];

const ascii = (view: DataView, at: number): string =>
  String.fromCharCode(...[0, 1, 2, 3].map((i) => view.getUint8(at + i)));
const fixed = (view: DataView, at: number): number => view.getInt32(at) / 65536;

/** curveType: none, one gamma, or a table. */
function tableCurve(view: DataView, at: number): Curve | null {
  const count = view.getUint32(at + 8);
  if (count === 0) return (encoded) => encoded;
  if (count === 1) {
    const gamma = view.getUint16(at + 12) / 256;
    return (encoded) => encoded ** gamma;
  }
  if (count > MOST_ENTRIES) return null;
  const table = Float64Array.from({ length: count }, (_, i) => view.getUint16(at + 12 + i * 2) / 65535);
  return (encoded) => {
    const place = encoded * (count - 1);
    const low = Math.min(count - 2, Math.floor(place));
    return table[low] + (table[low + 1] - table[low]) * (place - low);
  };
}

/** parametricCurveType. */
function formulaCurve(view: DataView, at: number): Curve | null {
  const kind = view.getUint16(at + 8);
  if (kind >= PARAMETERS.length) return null;
  const [g, a = 1, b = 0, c = 0, d = 0, e = 0, f = 0] = Array.from({ length: PARAMETERS[kind] }, (_, i) =>
    fixed(view, at + 12 + i * 4)
  );
  const power = (x: number): number => Math.max(0, a * x + b) ** g;
  if (kind === 0) return (x) => x ** g;
  if (kind === 1) return (x) => (x >= -b / a ? power(x) : 0);
  if (kind === 2) return (x) => (x >= -b / a ? power(x) + c : c);
  return (x) => (x >= d ? power(x) + e : c * x + f);
}

function curveAt(view: DataView, at: number): Curve | null {
  const type = ascii(view, at);
  if (type === 'curv') return tableCurve(view, at);
  return type === 'para' ? formulaCurve(view, at) : null;
}

function parsed(view: DataView): MatrixProfile | null {
  if (ascii(view, 16) !== 'RGB ' || ascii(view, 20) !== 'XYZ ' || ascii(view, 36) !== 'acsp') return null;
  const places = new Map<string, number>();
  for (let i = 0; i < Math.min(200, view.getUint32(128)); i++)
    places.set(ascii(view, 132 + i * 12), view.getUint32(136 + i * 12));
  // Where there are tables, they say more than a matrix.
  if (places.has('A2B0')) return null;
  const columns = ['rXYZ', 'gXYZ', 'bXYZ'].map((tag) => {
    const at = places.get(tag);
    return at === undefined ? null : [8, 12, 16].map((offset) => fixed(view, at + offset));
  });
  const curves = ['rTRC', 'gTRC', 'bTRC'].map((tag) => {
    const at = places.get(tag);
    return at === undefined ? null : curveAt(view, at);
  });
  if (columns.includes(null) || curves.includes(null)) return null;
  const toXyz = [0, 1, 2].flatMap((row) => columns.map((column) => column![row])) as Matrix3;
  const matrix = multiply(D50_TO_REC2020, toXyz);
  // White is white: what fixed point and the standard's rounded white leave is taken away, and no more than that.
  if (rowSums(matrix).some((sum) => !(Math.abs(sum - 1) < 0.02))) return null;
  return { toWorking: withRowsOfOne(matrix), curves: curves as MatrixProfile['curves'] };
}

/** Null: the profile is of another kind, or damaged. */
export function matrixProfile(icc: Uint8Array): MatrixProfile | null {
  try {
    return parsed(new DataView(icc.buffer, icc.byteOffset, icc.byteLength));
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

/** Codes of 16 bits to those that sRGB's curve gives the same light; null where they are the same already, but for a code or two. */
export function recoded(curve: Curve): Uint16Array | null {
  const table = Uint16Array.from({ length: 65536 }, (_, code) =>
    Math.round(65535 * srgbEncode(Math.min(1, Math.max(0, curve(code / 65535)))))
  );
  const same = table.every((code, i) => Math.abs(srgbDecode(code / 65535) - srgbDecode(i / 65535)) < 1e-4);
  return same ? null : table;
}
