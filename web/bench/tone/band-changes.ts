import type { ToneSettings } from '$core/steps/tone/step.ts';

type Bands = ToneSettings['bands'];

/** Stops that a band is changed by. */
export const changeOf = (bands: Bands, stop: number): number =>
  bands.find((band) => band.stop === stop)?.change ?? 0;

/** The bands with one of them changed, within two stops; one that is not changed is left out. */
export function withBand(bands: Bands, stop: number, change: number): Bands {
  const bounded = Math.round(Math.min(2, Math.max(-2, change)) * 100) / 100;
  const others = bands.filter((band) => band.stop !== stop);
  return bounded === 0 ? others : [...others, { stop, change: bounded }].sort((a, b) => a.stop - b.stop);
}
