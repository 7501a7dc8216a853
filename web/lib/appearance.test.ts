import { describe, expect, it } from 'vitest';
import { readAppearance } from './appearance.ts';

describe('the look', () => {
  it('is read from its cookie, and never anything that it does not know', () => {
    expect(readAppearance('dim.black')).toEqual({ theme: 'dim', surround: 'black' });
    expect(readAppearance('light.white')).toEqual({ theme: 'light', surround: 'white' });
    expect(readAppearance(undefined)).toEqual({ theme: 'light', surround: 'grey' });
    expect(readAppearance('"><script>.white')).toEqual({ theme: 'light', surround: 'white' });
    expect(readAppearance('dim')).toEqual({ theme: 'dim', surround: 'grey' });
  });
});
