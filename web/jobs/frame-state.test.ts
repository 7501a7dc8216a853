import { describe, expect, it } from 'vitest';
import type { FrameCard } from '$server/set/frame-card.ts';
import { frameWords } from './frame-state.ts';

const words = (frame: object, own: Partial<FrameCard> = {}): string =>
  frameWords({
    frame: { recipe: {}, version: 0, lines_said: null, ...frame },
    readings: { plumb: null, straight: null },
    look: null,
    ...own
  } as unknown as FrameCard).join(', ');
const plumb = (rms: number) => ({ readings: { plumb: { rms } } }) as unknown as Partial<FrameCard>;

describe('what is said of a frame', () => {
  it('is what was done to it', () => {
    expect(words({})).toBe('new');
    expect(words({ version: 3 })).toBe('in work');
    expect(words({ recipe: { lines: { pitch: 2 } }, version: 1 })).toBe('true');
    expect(words({ recipe: { lines: { yaw: 2 }, tone: { exposure: 0.1 } }, version: 1 })).toBe('true, toned');
    expect(words({ recipe: { colour: { vibrance: 5 } }, version: 1 })).toBe('toned');
  });

  it('holds of a frame that was true as it was taken', () => {
    expect(words({}, plumb(0.08))).toBe('true');
    expect(words({}, plumb(0.3))).toBe('new');
    expect(words({ lines_said: { ok: true, said: 'Level within 0.1°.' } })).toBe('true');
  });

  it('does not count what is switched off, or stands at its default', () => {
    expect(words({ recipe: { lines: { enabled: false, pitch: 2 } }, version: 1 })).toBe('in work');
    expect(words({ recipe: { tone: { enabled: false, exposure: 1 } }, version: 2 })).toBe('in work');
    expect(words({ recipe: { tone: { exposure: 0, enabled: true } }, version: 2 })).toBe('in work');
  });

  it('is first that it wants a look', () =>
    expect(words({ recipe: { lines: { pitch: 2 }, tone: { contrast: 9 } } }, { look: 'Few lines.' })).toBe(
      'wants a look, toned'
    ));
});
