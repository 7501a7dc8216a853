/** How much of the window the picture covers, for the windows and shapes that photographers have. */
import { describe, expect, it } from 'vitest';
import { type Layout, BELOW, boardWidth, covered, sheetSize, shareRoom } from './share-room.ts';

const draggedAt = (width: number, height: number): { board: number; below: number } => ({
  board: boardWidth({ width, height }),
  below: BELOW.least
});
const laidOut = (
  [width, height]: [number, number],
  aspect: number,
  { index = true, folded = false, deck = 'auto' as 'auto' | 'below' | 'beside' } = {},
  inHand: Layout | null = null
): Layout & { share: number } => {
  const dragged = draggedAt(width, height);
  const layout = shareRoom({ width, height }, { aspect, deck, folded, index, dragged }, inHand);
  return {
    ...layout,
    share: (100 * covered(sheetSize({ width, height }, layout, dragged), aspect)) / (width * height)
  };
};

describe('the room of the picture', () => {
  it.each<[string, [number, number], number, { index?: boolean; folded?: boolean }, number]>([
    ['3:2 with the index', [1280, 800], 3 / 2, {}, 46],
    ['3:2 without it', [1280, 800], 3 / 2, { index: false }, 52],
    ['3:2, folded', [1280, 800], 3 / 2, { folded: true }, 68],
    ['3:2 in a large window', [1920, 1080], 3 / 2, {}, 58],
    ['2:3', [1280, 800], 2 / 3, {}, 30],
    ['4:5', [1280, 800], 4 / 5, {}, 36]
  ])('is large: %s', (_, window, aspect, options, least) => {
    expect(laidOut(window, aspect, options).share).toBeGreaterThanOrEqual(least);
  });

  it('puts the deck below wide crops and beside others, the index aside of tall ones', () => {
    expect(laidOut([1280, 800], 3)).toMatchObject({ deck: 'below', index: 'above' });
    expect(laidOut([1280, 800], 3 / 2)).toMatchObject({ deck: 'beside', index: 'above' });
    expect(laidOut([1280, 800], 2 / 3)).toMatchObject({ deck: 'beside', index: 'aside' });
    expect(laidOut([1280, 800], 2 / 3, { deck: 'below' }).deck).toBe('below');
    expect(laidOut([1280, 800], 2 / 3, { index: false }).index).toBeNull();
  });

  it('loses no room by choosing, and moves only for what is worth it', () => {
    for (let aspect = 0.4; aspect < 3.5; aspect += 0.02)
      for (const window of [
        [900, 600],
        [1280, 800],
        [1920, 1080],
        [1080, 1920]
      ] as [number, number][]) {
        const { share } = laidOut(window, aspect);
        for (const deck of ['below', 'beside'] as const)
          expect(share).toBeGreaterThanOrEqual(laidOut(window, aspect, { deck }).share);
        for (const deck of ['below', 'beside'] as const) {
          const inHand: Layout = { deck, index: 'above' };
          expect(laidOut(window, aspect, {}, inHand).share).toBeGreaterThan(share / 1.061);
        }
      }
    // About where both are alike, what is in hand stays.
    const even = Array.from({ length: 200 }, (_, i) => 1.4 + i * 0.01).filter(
      (aspect) =>
        laidOut([1280, 800], aspect, {}, { deck: 'below', index: 'above' }).deck === 'below' &&
        laidOut([1280, 800], aspect, {}, { deck: 'beside', index: 'above' }).deck === 'beside'
    );
    expect(even.length).toBeGreaterThan(3);
  });
});
