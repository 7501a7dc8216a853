/** Sizes of red and blue taken over from a picture's own edges: only where they lessen what is to be seen, and nothing else is known. */
import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../math/random.ts';
import { fitLateral } from '../../measure/lateral/fit-lateral.ts';
import type { LateralEdge } from '../../measure/lateral/measure-edges.ts';
import type { Lateral } from '../../optics/lens-model.ts';
import { completeRecipe } from '../../recipe/recipe.ts';
import { type ColourEdges, evenColours } from './even-colours.ts';

const SIZE = { width: 3000, height: 2000 };
const UNIT = Math.hypot(1500, 1000);
/** As parts of the radius: red is larger, and more so outside; blue smaller. */
const GLASS: Lateral = { red: [2e-4, 0, 5e-4], blue: [-3e-4, 0, -6e-4] };
const NONE: Lateral = { red: [], blue: [] };

/** Edges all over a picture, in any direction, with offsets in pixels that a lens makes of them, and so much error. */
function edgesOf(lateral: Lateral, { count = 400, error = 0.05, seed = 1 } = {}): LateralEdge[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, () => {
    const at = [(2 * random() - 1) * 0.83, (2 * random() - 1) * 0.55] as const;
    const turn = random() * Math.PI;
    const across = [Math.cos(turn), Math.sin(turn)] as const;
    const r = Math.hypot(...at);
    const along = (at[0] * across[0] + at[1] * across[1]) * UNIT;
    const offset = ([a = 0, b = 0, c = 0]: readonly number[]): number =>
      along * (a + b * r + c * r * r) + error * gaussian(random);
    return { at: [...at], across: [...across], red: offset(lateral.red), blue: offset(lateral.blue) };
  });
}
const fitted = (edges: LateralEdge[]): Lateral => {
  const fit = fitLateral(edges, UNIT);
  if (!fit.ok) throw new Error(fit.reason);
  return fit.lateral;
};
const { lens } = completeRecipe();
const asShot = { lens, terms: null, size: SIZE };
const shown = (glass: Lateral, options?: Parameters<typeof edgesOf>[1]): ColourEdges => {
  const edges = edgesOf(glass, options);
  return { edges, lateral: fitted(edges) };
};

describe('sizes of red and blue', () => {
  it('are those of the glass, also where edges are noisy', () => {
    const made = evenColours(shown(GLASS, { error: 0.15 }), { ...asShot, lens: { ...lens, lateral: 30 } });
    const { measured, lateral } = made!.lens;
    expect(lateral).toBe(100);
    for (const colour of ['red', 'blue'] as const)
      for (const r of [0.3, 0.6, 0.95]) {
        const at = (terms: readonly number[]): number =>
          terms.reduce((sum, term, i) => sum + term * r ** (i + 1), 0) * UNIT;
        expect(Math.abs(at(measured![colour]) - at(GLASS[colour])), `${colour} ${r}`).toBeLessThan(0.12);
      }
    expect(made!.said).toMatch(/^Colour edges of 0\.\d\d px are down to 0\.1\d px\.$/);
  });

  it('stay where nothing better is told by the edges', () => {
    // A lens without a fault; one whose fault is drowned; edges that are coloured in truth; sizes of another lens.
    expect(evenColours(shown(NONE), asShot)).toBeNull();
    expect(evenColours(shown(GLASS, { error: 2 }), asShot)).toBeNull();
    const painted = edgesOf(NONE, { error: 0.6, seed: 5 });
    expect(evenColours({ edges: painted, lateral: fitted(painted) }, asShot)).toBeNull();
    const other: Lateral = { red: GLASS.blue, blue: GLASS.red };
    expect(evenColours({ edges: edgesOf(GLASS), lateral: other }, asShot)).toBeNull();
    // A fault that nobody sees, told well: of a grey picture, and of a good lens.
    const faint: Lateral = { red: [5e-5], blue: [-7e-5] };
    expect(evenColours(shown(faint, { error: 0.01 }), asShot)).toBeNull();
    expect(evenColours(shown({ red: [1e-9], blue: [0] }, { error: 1e-7 }), asShot)).toBeNull();
    // Too few to judge by, or none that told it.
    expect(evenColours(shown(GLASS, { count: 60 }), asShot)).toBeNull();
    expect(evenColours({ edges: edgesOf(GLASS), lateral: null }, asShot)).toBeNull();
  });

  it('stay where they are known: from a profile, a measurement or by hand', () => {
    const coloured = shown(GLASS);
    const terms = { distortion: null, shading: null, softness: null, lateral: GLASS };
    expect(evenColours(coloured, { ...asShot, terms: terms as never })).toBeNull();
    const zero = { red: [0], blue: [1e-5] };
    expect(evenColours(coloured, { ...asShot, lens: { ...lens, measured: zero } })).toBeNull();
    expect(evenColours(coloured, { ...asShot, lens: { ...lens, lateralRed: 0.1 } })).toBeNull();
    // Switched down to nothing, a profile's are still known.
    expect(
      evenColours(coloured, { ...asShot, terms: terms as never, lens: { ...lens, lateral: 0 } })
    ).toBeNull();
  });
});
