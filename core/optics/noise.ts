/**
 * The noise of sensor values: of a value v (0..1, 1 is white) it has the variance `gain · v + read²` (Foi et al. 2008: photons, and
 * what reading adds).
 */
export interface Noise {
  gain: number;
  read: number;
  /** What white balance multiplies red, green and blue by, where values are those of a mosaic. */
  multipliers?: readonly [number, number, number];
}

/** About what sensors have at ISO 100, for files whose values were not measured. */
const USUAL: Noise = { gain: 1.7e-5, read: 1e-4 };
/** Finished pictures were cleaned, and have the steps of eight bits. */
const FINISHED: Noise = { gain: 4e-6, read: 1.2e-3 };

/** The facts of a frame that tell its noise. */
interface Told {
  noise?: Noise | null;
  rendering: 'scene' | 'display';
  iso: number | null;
}

/** The noise of a frame: as measured, or by its kind and ISO. */
export function noiseOf({ noise, rendering, iso }: Told): Noise {
  if (noise) return noise;
  if (rendering === 'display') return FINISHED;
  const times = Math.max(1, (iso ?? 100) / 100);
  return { gain: USUAL.gain * times, read: USUAL.read * Math.sqrt(times) };
}
