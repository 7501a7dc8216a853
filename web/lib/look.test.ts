import { describe, expect, it } from 'vitest';
import { readLook } from './look.ts';

describe('the look', () => {
  it('is read from its cookie, and never anything that it does not know', () => {
    expect(readLook('dim.black')).toEqual({ theme: 'dim', surround: 'black' });
    expect(readLook('light.white')).toEqual({ theme: 'light', surround: 'white' });
    expect(readLook(undefined)).toEqual({ theme: 'light', surround: 'grey' });
    expect(readLook('"><script>.white')).toEqual({ theme: 'light', surround: 'white' });
    expect(readLook('dim')).toEqual({ theme: 'dim', surround: 'grey' });
  });
});
