import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../../math/random.ts';
import { type BorderSettings, borderedSize, hasBorder, layBorder, pictureWithin } from './border-layout.ts';

const settings = (more: Partial<BorderSettings>): BorderSettings => ({
  enabled: true,
  border: 0,
  borderColour: '#ffffff',
  borderPaper: 'none',
  borderLine: 0,
  borderLineAt: 0,
  borderLineColour: '#000000',
  ...more
});

describe('a border', () => {
  it('is a share of the shorter edge, alike on all sides', () => {
    const ten = settings({ border: 10 });
    const picture = { width: 3000, height: 2000 };
    expect(borderedSize(ten, picture)).toEqual({ width: 3400, height: 2400 });
    expect(layBorder(ten, picture, { width: 3400, height: 2400 }).picture).toEqual({
      left: 200,
      top: 200,
      right: 3200,
      bottom: 2200
    });
    expect(borderedSize(settings({ border: 10, enabled: false }), picture)).toEqual(picture);
    expect(hasBorder(settings({}))).toBe(false);
  });

  it('fills a paper of a ratio, also with no width of its own', () => {
    expect(borderedSize(settings({ borderPaper: '1:1' }), { width: 3000, height: 2000 })).toEqual({
      width: 3000,
      height: 3000
    });
    expect(borderedSize(settings({ borderPaper: '3:2', border: 10 }), { width: 2000, height: 3000 })).toEqual(
      {
        width: 5100,
        height: 3400
      }
    );
  });

  it('holds the picture in its own shape, whatever the size, and the line between it and the edge', () => {
    const random = seededRandom(8);
    for (let i = 0; i < 400; i++) {
      const full = { width: 400 + Math.floor(5600 * random()), height: 400 + Math.floor(5600 * random()) };
      const of = settings({
        border: Math.floor(31 * random()),
        borderPaper: (['none', '1:1', '4:5', '16:9'] as const)[Math.floor(4 * random())],
        borderLine: Math.floor(11 * random()),
        borderLineAt: Math.floor(101 * random())
      });
      const most = borderedSize(of, full);
      const scale = 0.1 + 0.9 * random();
      const whole = { width: Math.round(most.width * scale), height: Math.round(most.height * scale) };
      const picture = pictureWithin(of, full, whole);
      expect(Math.abs(picture.width / scale / full.width - 1)).toBeLessThan(0.01);
      expect(Math.abs(picture.height - (picture.width * full.height) / full.width)).toBeLessThan(
        1.1 + (1.1 * full.height) / full.width
      );
      const { picture: at, line } = layBorder(of, picture, whole);
      expect(at.left >= 0 && at.top >= 0 && at.right <= whole.width && at.bottom <= whole.height).toBe(true);
      expect(Math.abs(at.left - (whole.width - at.right))).toBeLessThanOrEqual(1);
      if (!line) continue;
      const { outside, inside } = line;
      expect(outside.left >= 0 && outside.top >= 0).toBe(true);
      expect(outside.right <= whole.width && outside.bottom <= whole.height).toBe(true);
      expect(inside.left <= at.left && inside.right >= at.right && inside.top <= at.top).toBe(true);
      expect(inside.left - outside.left).toBeGreaterThanOrEqual(1);
      expect(inside.left - outside.left).toBe(outside.bottom - inside.bottom);
    }
  });
});
