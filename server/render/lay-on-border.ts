/** A finished picture on its border, in the colours of the file. */
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import { type OutputSpace, RGB_SPACES, betweenSpaces, encodeValue } from '../../core/colour/rgb-spaces.ts';
import { srgbDecode } from '../../core/colour/srgb-transfer.ts';
import { apply } from '../../core/math/matrix3.ts';
import type { Vector3 } from '../../core/math/vector3.ts';
import { takeUint16, takeUint8 } from '../../core/picture/kernels/heap.ts';
import { type BorderSettings, layBorder } from '../../core/steps/finish/border/border-layout.ts';

type Pixels = Uint8Array | Uint16Array;

/** Codes of a colour of sRGB, such as #f4f1ea, in a space. */
export function codesOf(colour: string, space: OutputSpace, most: number): number[] {
  const light = [1, 3, 5].map((at) => srgbDecode(parseInt(colour.slice(at, at + 2), 16) / 255)) as Vector3;
  return apply(betweenSpaces(RGB_SPACES.srgb, RGB_SPACES[space]), light).map((value) =>
    Math.round(most * encodeValue(RGB_SPACES[space].transfer, Math.min(1, Math.max(0, value))))
  );
}

/** Interleaved RGB of the whole; its memory is the caller's to give back, as that of the picture stays. */
export function layOnBorder(
  picture: Pixels,
  size: FrameSize,
  whole: FrameSize,
  settings: BorderSettings,
  space: OutputSpace
): Pixels {
  const deep = picture instanceof Uint16Array;
  const length = whole.width * whole.height * 3;
  const out = deep ? takeUint16(length) : takeUint8(length);
  const { picture: at, line } = layBorder(settings, size, whole);
  const most = deep ? 65535 : 255;
  const fill = (left: number, top: number, right: number, bottom: number, codes: number[]): void => {
    for (let x = left; x < right; x++) out.set(codes, (top * whole.width + x) * 3);
    const first = out.subarray((top * whole.width + left) * 3, (top * whole.width + right) * 3);
    for (let y = top + 1; y < bottom; y++) out.set(first, (y * whole.width + left) * 3);
  };
  const paper = codesOf(settings.borderColour, space, most);
  fill(0, 0, whole.width, whole.height, paper);
  if (line) {
    const { outside, inside } = line;
    const ink = codesOf(settings.borderLineColour, space, most);
    fill(outside.left, outside.top, outside.right, outside.bottom, ink);
    fill(inside.left, inside.top, inside.right, inside.bottom, paper);
  }
  for (let y = 0; y < size.height; y++)
    out.set(
      picture.subarray(y * size.width * 3, (y + 1) * size.width * 3),
      ((at.top + y) * whole.width + at.left) * 3
    );
  return out;
}
