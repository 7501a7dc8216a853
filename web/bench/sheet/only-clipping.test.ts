import { describe, expect, it } from 'vitest';
import { ENDS, onlyClipping } from './only-clipping.ts';

describe('a picture of what clips', () => {
  const data = [255, 90, 255, 255, 0, 128, 0, 255, 255, 255, 255, 255, 12, 0, 254, 255, 0, 0, 0, 0];

  it('shows each colour that is at its top on black, and takes away what is at its bottom from white', () => {
    expect([...onlyClipping(data, 'light')]).toEqual([
      255, 0, 255, 255, 0, 0, 0, 255, 255, 255, 255, 255, 0, 0, 0, 255, 0, 0, 0, 0
    ]);
    expect([...onlyClipping(data, 'dark')].slice(0, 16)).toEqual([
      255, 255, 255, 255, 0, 255, 0, 255, 255, 255, 255, 255, 255, 0, 255, 255
    ]);
  });

  it('looks at one colour alone', () => {
    expect([...onlyClipping(data, 'light', 'blue')].slice(0, 12)).toEqual([
      0, 0, 255, 255, 0, 0, 0, 255, 0, 0, 255, 255
    ]);
  });

  it('belongs to the settings that move an end', () => {
    expect(ENDS.exposure).toBe('light');
    expect(ENDS.black).toBe('dark');
    expect(ENDS.contrast).toBeUndefined();
  });
});
