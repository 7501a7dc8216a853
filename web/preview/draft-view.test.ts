import { describe, expect, it } from 'vitest';
import { draftView, followed, keepsUp } from './draft-view.ts';

const view = { left: -1, top: -0.5, pixel: 0.002, width: 1000, height: 500 };

describe('a picture in motion', () => {
  it('is drawn in full where there is time for it, and coarser where there is not', () => {
    expect(draftView(view, 0)).toBe(view);
    expect(draftView(view, 25 / 500_000)).toBe(view);
    expect(keepsUp(view, 25 / 500_000)).toBe(true);
    const slow = draftView(view, 65 / 500_000);
    expect(slow.width).toBe(667);
    expect(keepsUp(view, 65 / 500_000)).toBe(false);
    const slower = draftView(view, 1000 / 500_000);
    expect([slower.width, slower.height]).toEqual([500, 250]);
    // It shows the same part of the picture.
    for (const coarse of [slow, slower]) {
      expect(coarse.width * coarse.pixel).toBeCloseTo(view.width * view.pixel, 12);
      expect(Math.abs(coarse.height * coarse.pixel - view.height * view.pixel)).toBeLessThan(coarse.pixel);
      expect([coarse.left, coarse.top]).toEqual([view.left, view.top]);
    }
  });

  it('comes back to full size when the machine is faster again', () => {
    let known = followed(0, 200, view);
    expect(draftView(view, known).width).toBe(500);
    for (let i = 0; i < 20; i++) known = followed(known, 10, draftView(view, known));
    expect(draftView(view, known)).toBe(view);
  });
});
