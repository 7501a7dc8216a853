/** Parts of the histogram, from dark to light, and the tone setting that each is dragged by. */
import { toneSchema } from '$core/steps/tone/step.ts';

export interface Zone {
  name: 'black' | 'shadows' | 'exposure' | 'highlights' | 'white';
  label: string;
  /** Shares of the histogram's width. */
  from: number;
  to: number;
}

const ENDS = [0, 0.1, 0.35, 0.65, 0.9, 1];

export const ZONES: readonly Zone[] = (['black', 'shadows', 'exposure', 'highlights', 'white'] as const).map(
  (name, i) => ({
    name,
    label: toneSchema.properties[name].label.toLowerCase(),
    from: ENDS[i],
    to: ENDS[i + 1]
  })
);

export const zoneAt = (place: number): Zone => ZONES.find(({ to }) => place < to) ?? ZONES[ZONES.length - 1];

/** The setting of a zone that was dragged by a share of the histogram's width: a third of it is half the setting's range. */
export function draggedZone({ name }: Zone, value: number, by: number): number {
  const { minimum, maximum, step } = toneSchema.properties[name];
  const wanted = value + by * 1.5 * (name === 'exposure' ? 4 : maximum);
  const rounded = Math.round(Math.min(maximum, Math.max(minimum, wanted)) / step) * step;
  return Number(rounded.toFixed(2));
}
