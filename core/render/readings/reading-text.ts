/** Readings in words: as the bench, the cards and the report show them. */
import type { ByItself } from './measure.ts';

/** A figure with its unit; of what was found by itself with its standard error. */
function withError(value: number, unit: string, { found }: ByItself, digits: number): string {
  if (!found) return `${value.toFixed(digits)}${unit}`;
  // An error is told to one place, and never as nothing.
  const error = Math.max(found.error, 0.5 * 10 ** -digits);
  return `${value.toFixed(digits)}${unit} ±${error.toFixed(error < 0.095 ? 2 : 1)} found`;
}

export const angleText = (angles: { rms: number } & ByItself): string =>
  withError(angles.rms, '°', angles, 2);

export const straightText = (straight: { rms: number } & ByItself): string =>
  withError(straight.rms, ' px', straight, 2);
