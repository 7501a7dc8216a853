/** How photographers hold their cameras: what is likely before any line is seen. */

/** How cameras are held: nearly level, with exceptions; pitched as the subject asks. Degrees. */
const ROLLS = [
  { share: 0.85, spread: 1.8 },
  { share: 0.15, spread: 6 }
];
export const PITCHES = 14;

/** Information on the roll, in 1/degrees², that the nearer of its spreads gives at a place: a mixture by its shares there. */
export function rollInformation(roll: number): number {
  const densities = ROLLS.map(
    ({ share, spread }) => (share / spread) * Math.exp(-((roll / spread) ** 2) / 2)
  );
  const total = densities.reduce((sum, density) => sum + density, 0);
  return ROLLS.reduce((sum, { spread }, i) => sum + densities[i] / total / spread ** 2, 0);
}

/** Log of the likelihood of roll and pitch, in degrees, up to a constant. */
export const priorAt = (roll: number, pitch: number): number =>
  Math.log(
    ROLLS.reduce(
      (sum, { share, spread }) => sum + (share / spread) * Math.exp(-((roll / spread) ** 2) / 2),
      0
    )
  ) -
  (pitch / PITCHES) ** 2 / 2;
