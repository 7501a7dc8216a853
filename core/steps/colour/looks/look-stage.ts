/** A look laid over the finished colours, with an amount. What lies outside its range goes through beside it. */
import { STEPS, tabulate } from '../../../colour/look-up-table.ts';
import { REC2020_TO_SRGB } from '../../../colour/primaries.ts';
import { srgbDecode, srgbEncode } from '../../../colour/srgb-transfer.ts';
import type { ColourSettings } from '../step.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { addressOf, keptTable } from '../../../picture/kernels/heap.ts';
import { invert3 } from '../../../math/matrix3.ts';
import { addresses } from '../../../picture/tile/planes.ts';
import { resourceFor } from '../../../picture/tile/resource.ts';
import { RENDITION, type Rendition } from '../../../settings/rendition.ts';
import type { PixelStage } from '../../../picture/tile/stage.ts';
import { askForLook, lookResource } from './look-resource.ts';

interface Given {
  recipe: { rendition: Rendition; colour: ColourSettings };
}

export interface LookData {
  /** What the look is known by. */
  look: string;
  /** 0..1. */
  amount: number;
}

const FROM_SRGB = invert3(REC2020_TO_SRGB);
const ENCODE = tabulate(srgbEncode);
const DECODE = tabulate(srgbDecode);

export const lookStage: PixelStage<'look', Given, LookData> = {
  name: 'look',
  kind: 'pixel',
  reads: ({ look }) => [askForLook(look)],
  prepare: ({ recipe: { rendition, colour } }) =>
    rendition === RENDITION && colour.enabled && colour.look !== null && colour.lookAmount > 0
      ? { look: colour.look, amount: colour.lookAmount / 100 }
      : null,
  begin({ resources }, { look: id, amount }, arena) {
    const look = resourceFor(resources, lookResource, { id });
    const { from, to, size, kind, space } = look;
    const table = arena.addressOf(look.values);
    const numbers = arena.addressOf([
      ...from,
      ...from.map((low, c) => (size - 1) / (to[c] - low)),
      size,
      amount
    ]);
    const [toSrgb, fromSrgb] = [arena.addressOf(REC2020_TO_SRGB), arena.addressOf(FROM_SRGB)];
    const [encode, decode] = [keptTable(ENCODE), keptTable(DECODE)];
    const { addPlane, lookUpPlane, mixColours, setAside, throughCube, throughCurves } = kernels();
    const through = kind === '3D' ? throughCube : throughCurves;
    if (space === 'linear')
      return (rows) => {
        const { length } = rows.r;
        const planes = addresses(rows);
        mixColours(...planes, length, toSrgb, Infinity);
        through(...planes, length, table, numbers, 1);
        mixColours(...planes, length, fromSrgb, Infinity);
      };
    let rest: number[] = [];
    return (rows) => {
      const { length } = rows.r;
      const planes = addresses(rows);
      if (rest.length === 0) rest = planes.map(() => addressOf(arena.float32(length)));
      mixColours(...planes, length, toSrgb, Infinity);
      for (const [i, plane] of planes.entries()) {
        setAside(plane, length, rest[i]);
        lookUpPlane(plane, length, encode, STEPS, 0);
      }
      through(...planes, length, table, numbers, 1);
      for (const [i, plane] of planes.entries()) {
        lookUpPlane(plane, length, decode, STEPS, 0);
        addPlane(plane, length, rest[i]);
      }
      mixColours(...planes, length, fromSrgb, Infinity);
    };
  }
};
