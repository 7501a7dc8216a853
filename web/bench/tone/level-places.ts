import type { Levels } from '$core/steps/tone/step.ts';

/** Where on what is shown the middle of levels lies: what becomes one half. */
export const middlePlace = ({ black, white, middle }: Levels): number =>
  black + (white - black) * 0.5 ** middle;

/** The middle that makes a place one half. */
export function placedMiddle({ black, white }: Levels, place: number): number {
  const share = Math.min(0.999, Math.max(0.001, (place - black) / Math.max(1e-3, white - black)));
  return Math.round(Math.min(10, Math.max(0.1, Math.log(share) / Math.log(0.5))) * 100) / 100;
}

/** Share of the pixels that may lie beyond each end. */
const BEYOND = 0.001;

/** Black and white where the counts of 256 values begin and end, but for a speck. */
export function endsOf(counts: readonly number[]): Pick<Levels, 'black' | 'white'> {
  const speck = counts.reduce((sum, count) => sum + count, 0) * BEYOND;
  const first = (values: readonly number[]): number => {
    let left = speck;
    const found = values.findIndex((count) => (left -= count) < 0);
    return Math.max(0, found);
  };
  const [black, white] = [first(counts), 255 - first([...counts].reverse())];
  return white > black ? { black: black / 255, white: white / 255 } : { black: 0, white: 1 };
}
