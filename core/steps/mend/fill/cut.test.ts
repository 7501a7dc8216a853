import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../../math/random.ts';
import { type Labelling, expand } from './cut.ts';

const energyOf = ({ nodes, pairs, own, between }: Labelling, labels: ArrayLike<number>): number => {
  let sum = 0;
  for (let node = 0; node < nodes; node++) sum += own(node, labels[node]);
  pairs.forEach(([p, q], pair) => (sum += between(pair, labels[p], labels[q])));
  return sum;
};

/** Nodes of a grid of 3 by 3 with costs at random. */
function problem(seed: number, labels: number): Labelling {
  const random = seededRandom(seed);
  const costs = Array.from({ length: 9 * labels }, () => random());
  const pairs: [number, number][] = [];
  for (let node = 0; node < 9; node++) {
    if (node % 3 < 2) pairs.push([node, node + 1]);
    if (node < 6) pairs.push([node, node + 3]);
  }
  const weights = pairs.map(() => random());
  return {
    nodes: 9,
    labels,
    pairs,
    own: (node, label) => costs[node * labels + label],
    between: (pair, one, other) => (one === other ? 0 : weights[pair])
  };
}

/** The least energy of all labellings. */
function least(of: Labelling): number {
  let best = Infinity;
  for (let code = 0; code < of.labels ** of.nodes; code++) {
    const labels = Array.from(
      { length: of.nodes },
      (_, node) => Math.floor(code / of.labels ** node) % of.labels
    );
    best = Math.min(best, energyOf(of, labels));
  }
  return best;
}

describe('labels of least energy', () => {
  it('are found exactly where there are two', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const of = problem(seed, 2);
      const labels = new Uint8Array(9);
      expand(of, labels);
      expect(energyOf(of, labels)).toBeCloseTo(least(of), 9);
    }
  });

  it('are near the least where there are three, wherever they begin', () => {
    for (let seed = 1; seed <= 8; seed++)
      for (const begin of [0, 2]) {
        const of = problem(seed, 3);
        const labels = new Uint8Array(9).fill(begin);
        expand(of, labels);
        expect(energyOf(of, labels)).toBeLessThan(1.06 * least(of));
      }
  });
});
