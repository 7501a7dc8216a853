import { describe, expect, it } from 'vitest';
import { type Pace, followedPace, paceText } from './time-left.ts';

describe('the time that preparing takes', () => {
  it('follows from what became ready, and begins anew when all is done', () => {
    let pace: Pace | null = followedPace(null, 10, 1000);
    expect(paceText(pace, 1000)).toBe('Preparing 10 frames…');
    // More are added meanwhile: nothing became ready.
    pace = followedPace(pace, 12, 2000);
    expect(paceText(pace, 2000)).toBe('Preparing 12 frames…');
    pace = followedPace(pace, 8, 9000);
    // Four in eight seconds, eight to go.
    expect(paceText(pace, 9000)).toBe('Preparing 8 frames, about 16 s left');
    pace = followedPace(pace, 1, 23_000);
    expect(paceText(pace, 23_000)).toBe('Preparing 1 frame, about 2 s left');
    expect(paceText({ started: 0, done: 2, left: 60 }, 10_000)).toBe('Preparing 60 frames, about 5 min left');
    pace = followedPace(pace, 0, 25_000);
    expect(paceText(pace, 25_000)).toBe('');
  });
});
