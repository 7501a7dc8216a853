/**
 * Clipped sites of a balanced mosaic, rebuilt from those of the other colours about them that did not clip.
 *
 * After white balance a grey surface has the same value at every site, but the colours clip at different ones (at their
 * multipliers): green first, as a rule, and what is left of red and blue would be pink. A clipped site is therefore raised
 * to what its neighbours of the other colours say; where all are clipped, to the highest level, which is neutral. It is never
 * lowered, so that a blue sky in which blue alone clips stays blue. All weights are smooth: there is no step at a border.
 */
import type { SiteColour } from './mosaic.ts';

/** Shares of a colour's clipping level from which on a site begins to count as clipped, and counts in full. */
const BEGINS = 0.92;
const CLIPPED = 0.985;

/** Share of unclipped neighbours below which the highest level begins to take their place. */
const OPEN_ENOUGH = 0.15;

/** How far a site is clipped, 0..1, from its value over its clipping level. */
function clippedShare(level: number): number {
  if (level <= BEGINS) return 0;
  if (level >= CLIPPED) return 1;
  const t = (level - BEGINS) / (CLIPPED - BEGINS);
  return t * t * (3 - 2 * t);
}

/**
 * The band with its clipped sites rebuilt, or the band itself when it has none; the outermost rows and columns stay as they
 * are. `levels`: values at which red, green and blue clip.
 */
export function rebuildClipped(
  band: Float32Array,
  span: number,
  rows: number,
  levels: readonly [number, number, number],
  colourAt: (row: number, x: number) => SiteColour
): Float32Array {
  const highest = Math.max(...levels);
  let out = band;
  for (let row = 1; row < rows - 1; row++) {
    const colours = [colourAt(row, 0), colourAt(row, 1)];
    const others = [colourAt(row + 1, 0), colourAt(row + 1, 1)];
    const least = colours.map((colour) => BEGINS * levels[colour]);
    for (let x = 1, at = row * span + 1; x < span - 1; x++, at++) {
      const value = band[at];
      const parity = x & 1;
      if (value < least[parity]) continue;
      const own = colours[parity];
      let [sum, count, open, openSum] = [0, 0, 0, 0];
      const look = (place: number, colour: SiteColour): void => {
        const near = band[place];
        const unclipped = 1 - clippedShare(near / levels[colour]);
        sum += near;
        count++;
        open += unclipped;
        openSum += unclipped * near;
      };
      look(at - 1, colours[1 - parity]);
      look(at + 1, colours[1 - parity]);
      look(at - span, others[parity]);
      look(at + span, others[parity]);
      if (own !== 1) {
        const across = others[1 - parity];
        look(at - span - 1, across);
        look(at - span + 1, across);
        look(at + span - 1, across);
        look(at + span + 1, across);
      }
      // What did not clip speaks for itself; what did is at least as bright as it says.
      const told = Math.max(sum / count, open > 0 ? openSum / open : 0);
      const hopeless = 1 - Math.min(1, open / (count * OPEN_ENOUGH));
      const neutral = told + (Math.max(told, highest) - told) * hopeless;
      if (neutral <= value) continue;
      if (out === band) out = band.slice();
      out[at] = value + clippedShare(value / levels[own]) * (neutral - value);
    }
  }
  return out;
}
