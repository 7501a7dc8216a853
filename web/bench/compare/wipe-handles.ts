/** What of the line between two pictures the keyboard can take. */
import type { FrameSize, Point } from '$core/math/frame-geometry.ts';
import type { Compare } from './compare-state.svelte.ts';
import { ARM, placeOf, waysOf } from './half-plane.ts';

/** Degrees for each press. */
const TURN = 1;

/** Pixels for each press. */
const STEP = 8;

export function wipeHandles(compare: Compare, size: FrameSize) {
  const { line } = compare;
  const [x, y] = placeOf(line, size);
  const { along } = waysOf(line);
  return [
    {
      id: 'wipe-line',
      label: `Line between ${compare.label} and now`,
      at: [x, y] as Point,
      nudge(dx: number, dy: number): void {
        const { line: now } = compare;
        compare.line = {
          ...now,
          x: now.x + (dx * STEP) / size.width,
          y: now.y + (dy * STEP) / size.height
        };
      }
    },
    {
      id: 'wipe-end',
      label: 'End of the line, which turns it',
      at: [x + ARM * along[0], y + ARM * along[1]] as Point,
      nudge(dx: number, dy: number): void {
        const { line: now } = compare;
        compare.line = { ...now, angle: now.angle + (dy - dx) * TURN };
      }
    }
  ];
}
