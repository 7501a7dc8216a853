/** Edges found in photographs that nobody here took: a bow that they tell is undone, and none is made up. */
import { describe, expect, it } from 'vitest';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { edgesOf, realPhotograph } from '../../../scenes/real-photograph.ts';
import { type CurveSolution, solveCurves } from './solve-curves.ts';

async function straightened(...of: Parameters<typeof realPhotograph>): Promise<CurveSolution> {
  const plane = await realPhotograph(...of);
  return solveCurves(edgesOf(plane), { robust: true, noise: 0.25 / halfDiagonal(plane) });
}

describe('edges of a board held before a camera', () => {
  it.each(['right03', 'right09', 'right12', 'left06', 'left13'])(
    'tell its lens, as far as one picture can: %s',
    async (name) => {
      const solved = await straightened('boards', `${name}.jpg`);
      if (!solved.ok) throw new Error(solved.reason);
      // Both cameras bow by 11 to 14 % at the corner, by all their boards together.
      const bow = solved.terms.reduce((sum, term) => sum + term, 0);
      expect(bow).toBeGreaterThan(-0.16);
      expect(bow).toBeLessThan(-0.09);
      expect(solved.error!).toBeLessThan(0.02);
      expect(solved.after).toBeLessThan(solved.before / 2);
      expect(Math.hypot(...solved.centre)).toBeLessThan(0.05);
    }
  );
});

describe('edges that tell no lens', () => {
  it.each<Parameters<typeof realPhotograph>>([
    ['pictures', 'china.jpg'],
    ['pictures', 'flower.jpg'],
    ['boards', 'fruits.jpg'],
    ['boards', 'baboon.jpg'],
    ['backgrounds', 'seeding_by_Clements_Engelhardt.jpg'],
    ['backgrounds', 'greentock_by_Peter_Nerlich.jpg'],
    ['backgrounds', 'life_by_Aitzol_Berasategi.jpg'],
    ['backgrounds', 'Wine_by_Jakkub_Mede.jpg']
  ])('change nothing: %s %s', async (from, name) => {
    const solved = await straightened(from, name);
    expect(solved.ok ? solved.terms : solved.reason).toMatch(/Nothing was changed|Mark|marked/);
  });
});
