/** Areas for measuring: shapes of all kinds over the frame, half of them refined, and what photographers do within them. */
import type { PartialRecipe } from '../core/recipe/recipe.ts';
import { seededRandom } from '../core/math/random.ts';

const STROKE_POINTS = 500;

export function areasAtWork(count: number): NonNullable<PartialRecipe['areas']> {
  const random = seededRandom(4);
  const part = (i: number): object => {
    const [x, y] = [random() * 1.2 - 0.6, random() * 0.8 - 0.4];
    const own = { id: 'p', meets: 'add' };
    const points = Array.from({ length: STROKE_POINTS }, (_, k) => [
      x + 0.3 * Math.sin(k / 40),
      y + 0.2 * Math.cos(k / 60),
      1
    ]).flat();
    const stroke = { id: 's', size: 0.06, softness: 50, flow: 100, erases: false, keepsEdges: false, points };
    return [
      {
        ...own,
        kind: 'radial',
        centre: [x, y],
        across: 0.25,
        down: 0.2,
        angle: 20,
        feather: 50,
        outside: false
      },
      { ...own, kind: 'gradient', a: [x, -0.5], b: [x + 0.1, 0.1], twoSided: false, softness: 100 },
      {
        ...own,
        kind: 'polygon',
        feather: 5,
        points: [
          [x, y],
          [x + 0.3, y],
          [x + 0.2, y + 0.3],
          [x - 0.1, y + 0.2]
        ]
      },
      { ...own, kind: 'brush', strokes: [stroke] },
      { ...own, kind: 'light', low: -3, high: -1.5, feather: 0.5 }
    ][i % 5];
  };
  const settings = (i: number): object =>
    [
      { tone: { exposure: 0.3 } },
      { tone: { exposure: -0.4, shadows: 20 }, colour: { warmth: 10 } },
      { tone: { contrast: 15 }, colour: { saturation: 10 } }
    ][i % 3];
  const each = Array.from({ length: count }, (_, i) => i);
  return {
    shapes: each.map((i) => ({ id: `s${i}`, parts: [part(i)], radius: i % 2 === 1 ? 8 : 0 })),
    list: each.map((i) => ({ id: `a${i}`, shape: `s${i}`, settings: settings(i) }))
  } as unknown as NonNullable<PartialRecipe['areas']>;
}
