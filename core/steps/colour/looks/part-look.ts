/** What a look does to lightness and to colours, apart: parts of each, mixed in OKLab (Ottosson 2020). */
import { LAB_TO_ROOTS, REC2020_TO_LMS, toOklab } from '../../../colour/oklab.ts';
import { REC2020_TO_SRGB, SRGB_TO_REC2020 } from '../../../colour/primaries.ts';
import { srgbDecode, srgbEncode } from '../../../colour/srgb-transfer.ts';
import { type Matrix3, apply, invert3 } from '../../../math/matrix3.ts';
import type { Vector3 } from '../../../math/vector3.ts';
import type { LookTable } from './look.ts';

/** Nodes a side of what comes of curves: they change colours channel by channel, their parts do not. */
const SIDE = 33;
const FROM_LMS = invert3(REC2020_TO_LMS);

const ends = (value: number, by: (value: number) => number): number => Math.sign(value) * by(Math.abs(value));

function labOf(colour: Vector3, { space }: Pick<LookTable, 'space'>): Vector3 {
  const linear = space === 'srgb' ? colour.map((value) => ends(value, srgbDecode)) : colour;
  return toOklab(apply(SRGB_TO_REC2020 as Matrix3, linear as Vector3));
}

function colourOf(lab: Vector3, { space }: Pick<LookTable, 'space'>): Vector3 {
  const roots = apply(LAB_TO_ROOTS, lab);
  const linear = apply(REC2020_TO_SRGB, apply(FROM_LMS, roots.map((root) => root ** 3) as Vector3));
  return (space === 'srgb' ? linear.map((value) => ends(value, srgbEncode)) : linear) as Vector3;
}

/** The value of curves at a node of the cube. */
function throughCurves({ values, size, from, to }: LookTable, colour: Vector3): Vector3 {
  return colour.map((value, c) => {
    const place = Math.min(size - 1, Math.max(0, ((value - from[c]) / (to[c] - from[c])) * (size - 1)));
    const i = Math.min(size - 2, Math.floor(place));
    const low = values[3 * i + c];
    return low + (values[3 * (i + 1) + c] - low) * (place - i);
  }) as Vector3;
}

/** A look with shares, 0..1, of what it does to lightness (`contrast`) and to a and b (`colour`). */
export function partLook(
  look: LookTable,
  { contrast, colour }: { contrast: number; colour: number }
): LookTable {
  const size = look.kind === '3D' ? look.size : SIDE;
  const values = new Float32Array(3 * size ** 3);
  const at = (i: number, c: number): number => look.from[c] + ((look.to[c] - look.from[c]) * i) / (size - 1);
  for (let i = 0; i < size ** 3; i++) {
    const own: Vector3 = [
      at(i % size, 0),
      at(Math.floor(i / size) % size, 1),
      at(Math.floor(i / size ** 2), 2)
    ];
    const looked =
      look.kind === '3D'
        ? ([look.values[3 * i], look.values[3 * i + 1], look.values[3 * i + 2]] as Vector3)
        : throughCurves(look, own);
    const [from, to] = [labOf(own, look), labOf(looked, look)];
    const shares = [contrast, colour, colour];
    const mixed = from.map((value, c) => value + (to[c] - value) * shares[c]) as Vector3;
    values.set(colourOf(mixed, look), 3 * i);
  }
  return { ...look, kind: '3D', size, values };
}
