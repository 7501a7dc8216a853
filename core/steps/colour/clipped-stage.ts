/**
 * Clipped light stays white whatever the white balance. What clipped was rebuilt as the camera's own white, which another
 * balance would tint: a lamp in a warm room turns cyan, with a green ring where two of its colours are clipped. In the file's own
 * colours, before anything changes the light by which clipping is known, it is made the colour that the balance makes white.
 */
import type { CameraWhite } from '../../optics/camera-white.ts';
import type { Rendering } from '../../optics/frame-facts.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { apply, invert3, multiply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { addresses } from '../../picture/tile/planes.ts';
import type { Rendition } from '../../settings/rendition.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import { type BalanceFacts, balanceOf } from './balance-stage.ts';
import type { ColourSettings } from './step.ts';

interface Given {
  facts: BalanceFacts & { rendering: Rendering };
  recipe: { rendition: Rendition; colour: ColourSettings };
}

export interface ClippedData {
  /** The file's colour that the balance makes white, green 1. */
  white: Vector3;
  /** Values at which the file's colours clip; null where that is not known of each. */
  levels: Vector3 | null;
}

/** The share of a clipping level from which a colour counts as clipped. */
const BEGINS = 0.93;
/** A white that differs by this much from the camera's is drawn to in full. */
const FULL = 0.1;

/** After the camera's white balance each colour clips at its multiplier, the least of them at 1. */
function levelsOf(white: CameraWhite | null | undefined): Vector3 | null {
  if (!white) return null;
  const most = Math.max(...white.neutral);
  return white.neutral.map((response) => most / response) as Vector3;
}

export const clippedStage: PixelStage<'clipped', Given, ClippedData> = {
  name: 'clipped',
  kind: 'pixel',
  prepare({ facts, recipe }) {
    const balance = balanceOf(recipe, facts);
    if (!balance) return null;
    const [r, g, b] = apply(invert3(multiply(balance, facts.toWorking)), [1, 1, 1]);
    return {
      white: [r / g, 1, b / g],
      levels: facts.rendering === 'scene' ? levelsOf(facts.white) : null
    };
  },
  begin(_, { white, levels }, arena) {
    const differs = Math.max(...white.map((value) => Math.abs(value - 1)));
    const numbers = arena.addressOf([
      ...white,
      Math.min(1, differs / FULL),
      ...(levels ?? [1, 1, 1]),
      BEGINS
    ]);
    const { drawClipped } = kernels();
    // Where the levels are not known, a strong colour might be meant: only what is light in all three is clipped.
    const all = levels ? 0 : 1;
    return (rows) => drawClipped(...addresses(rows), rows.r.length, numbers, all);
  }
};
