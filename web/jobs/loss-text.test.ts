import { describe, expect, it } from 'vitest';
import { lossText } from './loss-text.ts';

describe('what removing loses', () => {
  it('is said in full, and no more than that', () => {
    expect(lossText({ frames: 0, worked: 0, deliveries: 0, bytes: 0 })).toBe(
      'Nothing is lost: it holds no frames.'
    );
    expect(lossText({ frames: 1, worked: 0, deliveries: 0, bytes: 25_400_000 })).toBe(
      'Lost for good: 1 frame. The originals go with them, unless another job holds them: 25 MB. Delivered files stay where they are.'
    );
    expect(lossText({ frames: 12, worked: 3, deliveries: 1, bytes: 0 })).toBe(
      'Lost for good: 12 frames, 3 of them with settings of their own, and the record of 1 delivery. Delivered files stay where they are.'
    );
    expect(lossText({ frames: 2, worked: 0, deliveries: 2, bytes: 3.25e9 })).toContain('2 deliveries');
    expect(lossText({ frames: 2, worked: 0, deliveries: 2, bytes: 3.25e9 })).toContain('3.3 GB');
  });
});
