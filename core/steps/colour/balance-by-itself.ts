/** The white balance that a light's colour asks for: in kelvin where the camera is known, else about as shot. */
import type { Matrix3 } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { type CameraWhite, type White, whiteFor } from '../../optics/camera-white.ts';
import { type ColourSettings, colourSchema } from './step.ts';
import { balanceFor } from './white-balance.ts';

/** What of a frame's file tells its colours. */
export interface BalanceFacts {
  white?: CameraWhite | null;
  toWorking: readonly number[];
}

const between = (value: number, { minimum, maximum }: { minimum: number; maximum: number }): number =>
  Math.min(maximum, Math.max(minimum, value));

/** Settings that stand for a white, as near as they reach. */
export const settingsOf = ({ kelvin, tint }: White): Partial<ColourSettings> => ({
  kelvin: Math.round(between(kelvin, colourSchema.properties.kelvin)),
  kelvinTint: Math.round(between(tint, colourSchema.properties.kelvinTint) * 10) / 10,
  warmth: 0,
  tint: 0
});

/** Settings that make a working colour, as shot, neutral; whether they reach it. */
export function neutralised(
  { white, toWorking }: BalanceFacts,
  colour: Vector3
): { settings: Partial<ColourSettings>; reached: boolean } {
  if (white) {
    const found = whiteFor(white, toWorking as Matrix3, colour);
    const { maximum } = colourSchema.properties.kelvinTint;
    return { settings: settingsOf(found), reached: Math.abs(found.tint) <= maximum };
  }
  const { warmth, tint, reached } = balanceFor(colour);
  const tenth = (value: number): number => Math.round(value * 10) / 10;
  return { settings: { warmth: tenth(warmth), tint: tenth(tint) }, reached };
}

/** Light bluer than open shade, in kelvin, is the sky's after sunset: by itself it is balanced this far, so that evening stays evening. */
const BLUEST = 9000;

/** Settings for a light that was found; what it is called. */
export function balanceByItself(
  facts: BalanceFacts,
  light: Vector3
): { settings: Partial<ColourSettings>; name: string } {
  const { settings } = neutralised(facts, light);
  if (!settings.kelvin) return { settings, name: light[0] > light[2] ? 'a warm one' : 'a cold one' };
  if (settings.kelvin > BLUEST)
    return { settings: { ...settings, kelvin: BLUEST }, name: `the blue of the sky, as far as ${BLUEST} K` };
  return { settings, name: `${Math.round(settings.kelvin / 50) * 50} K` };
}
