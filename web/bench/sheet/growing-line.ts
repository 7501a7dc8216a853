/**
 * A line while it is drawn by hand, without points that tell nothing: what has been kept of it stays as it goes on, so that what was
 * made of it can be gone on with.
 */
import { distanceFromStretch } from './thin-out.ts';

/** Points that one stretch may pass by at most. */
const MOST_PASSED = 64;

export interface GrowingLine<P extends readonly number[]> {
  add(point: P): void;
  /** What is kept, and where the line is now. */
  points(): P[];
}

/** `most`: by how much a stretch may miss what it passes by. */
export function growingLine<P extends readonly number[]>(most: number): GrowingLine<P> {
  const kept: P[] = [];
  let passed: P[] = [];
  return {
    add(point) {
      if (kept.length === 0) kept.push(point);
      else {
        const last = kept[kept.length - 1];
        const misses = passed.some((each) => distanceFromStretch(each, last, point) > most);
        if (misses || passed.length >= MOST_PASSED) {
          kept.push(passed[passed.length - 1]);
          passed = [];
        }
        passed.push(point);
      }
    },
    points: () => (passed.length > 0 ? [...kept, passed[passed.length - 1]] : [...kept])
  };
}
