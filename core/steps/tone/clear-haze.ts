/** What of the air is taken away, by the share of it in the light of a place (`measure/light/measure-haze.ts`). */
import { smoothstep } from '../../math/smoothstep.ts';
import type { ToneSettings } from './step.ts';

/** Entries of a table over shares from 0 to 1; it has one more, and one to interpolate to. */
export const VEIL_STEPS = 1024;
/** What is left of a colour at least: a shadow in the haze is dark without it, not black. */
export const LEAST_CLEARED = 0.03;

/** The light of the darkest thing about any clear place, as a share of the air's: so much of what is measured is no haze. */
const CLEAR = 0.04;
/** Shares of haze from which on there is nothing but air: sky stays as it is. */
const SKY = { from: 0.94, to: 1 };
/** Shares over which removal sets in. */
const SOFT = 0.35;

/** The share at which removal begins, by how near it reaches (0..1): below nothing, all is cleared; at 1 only what is farthest. */
const begins = (near: number): number => 0.55 * (1 - near) ** 2 - SOFT * near;

/** The veil that is taken away where a share of the light is air. */
export function clearedVeil(
  share: number,
  { haze, hazeDepth }: Pick<ToneSettings, 'haze' | 'hazeDepth'>
): number {
  const veil = Math.max(0, (share - CLEAR) / (1 - CLEAR));
  const from = begins(hazeDepth / 100);
  const meant = smoothstep(from, from + SOFT, veil);
  return (haze / 100) * veil * meant * (1 - smoothstep(SKY.from, SKY.to, veil));
}

export const veilTable = (settings: ToneSettings): Float32Array =>
  Float32Array.from({ length: VEIL_STEPS + 2 }, (_, i) => clearedVeil(Math.min(1, i / VEIL_STEPS), settings));
