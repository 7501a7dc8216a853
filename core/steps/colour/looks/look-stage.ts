/**
 * A look laid over the finished colours, with an amount. Outside of its range it goes on as it came: one that changes nothing changes
 * nothing there either.
 */
import { STEPS, tabulate } from '../../../colour/look-up-table.ts';
import { REC2020_TO_SRGB } from '../../../colour/primaries.ts';
import { srgbDecode, srgbEncode } from '../../../colour/srgb-transfer.ts';
import type { ColourSettings } from '../step.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { keptTable } from '../../../picture/kernels/heap.ts';
import { invert3 } from '../../../math/matrix3.ts';
import { addresses } from '../../../picture/tile/planes.ts';
import { resourceFor } from '../../../picture/tile/resource.ts';
import { FIRST_RENDITION, type Rendition } from '../../../settings/rendition.ts';
import type { PixelStage } from '../../../picture/tile/stage.ts';
import type { LookTable } from './look.ts';
import { partLook } from './part-look.ts';
import { askForLook, lookResource } from './look-resource.ts';

interface Given {
  recipe: { rendition: Rendition; colour: ColourSettings };
}

export interface LookData {
  /** What the look is known by. */
  look: string;
  /** 0..1. */
  amount: number;
  /** Shares of what it does to light and dark, and to colours; null: all of both. */
  parts: { contrast: number; colour: number } | null;
}

const FROM_SRGB = invert3(REC2020_TO_SRGB);
const ENCODE = tabulate(srgbEncode);
const DECODE = tabulate(srgbDecode);
/** Slope of sRGB's encoding at white, by which it goes on beyond. */
const SLOPE = 1.055 / 2.4;

const partsOf = ({ lookContrast, lookColour }: ColourSettings): LookData['parts'] =>
  lookContrast === 100 && lookColour === 100
    ? null
    : { contrast: lookContrast / 100, colour: lookColour / 100 };

/** The look of which parts were made last, and those: tiles share them. */
let parted: { values: Float32Array; key: string; made: LookTable } | null = null;

function partOf(look: LookTable, parts: NonNullable<LookData['parts']>): LookTable {
  const key = `${parts.contrast} ${parts.colour}`;
  if (parted?.values !== look.values || parted.key !== key)
    parted = { values: look.values, key, made: partLook(look, parts) };
  return parted.made;
}

/** `beyond`: whether a look goes on outside of its range, or what lies there counts as its ends, as the first rendition had it. */
export const lookStageOf = <Name extends string>(
  name: Name,
  beyond: boolean
): PixelStage<Name, Given, LookData> => ({
  name,
  kind: 'pixel',
  reads: ({ look }) => [askForLook(look)],
  prepare: ({ recipe: { rendition, colour } }) =>
    (rendition === FIRST_RENDITION) !== beyond &&
    colour.enabled &&
    colour.look !== null &&
    colour.lookAmount > 0
      ? { look: colour.look, amount: colour.lookAmount / 100, parts: partsOf(colour) }
      : null,
  begin({ resources }, { look: id, amount, parts }, arena) {
    const whole = resourceFor(resources, lookResource, { id });
    const look = parts ? partOf(whole, parts) : whole;
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
    const { bendPlane, lookUpPlane, mixColours, throughCube, throughCurves } = kernels();
    const bend = (planes: readonly number[], length: number, by: number, slope: number): void => {
      if (space !== 'srgb') return;
      for (const plane of planes)
        if (beyond) bendPlane(plane, length, by, STEPS, slope, 1);
        else lookUpPlane(plane, length, by, STEPS, 0);
    };
    const through = kind === '3D' ? throughCube : throughCurves;
    return (rows) => {
      const { length } = rows.r;
      const planes = addresses(rows);
      mixColours(...planes, length, toSrgb, Infinity);
      bend(planes, length, encode, SLOPE);
      through(...planes, length, table, numbers, beyond ? 1 : 0);
      bend(planes, length, decode, 1 / SLOPE);
      mixColours(...planes, length, fromSrgb, Infinity);
    };
  }
});

export const lookStage = lookStageOf('look', true);
