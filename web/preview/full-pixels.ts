/** Full-size pixels about what each target shows: which there are, and which are being fetched. */
import type { FrameSize } from '$core/math/frame-geometry.ts';
import { type SensorRectangle, isWithin } from '$core/picture/tile/sensor-rectangle.ts';
import type { SourceInputs } from '$core/render/source-planes.ts';
import { hashOf } from '$core/settings/hash.ts';
import type { Crew } from './crew.ts';
import type { Lent } from './lent.ts';
import type { Target, WorkerAnswer } from './messages.ts';

/** Pixels of the sensor that are fetched beyond those of a view, so that it can be moved. */
const SPARE = 192;

/** What full-size pixels are known by to those who lend and leave memory. */
export const fullName = (number: number): string => `full ${number}`;

export interface FullPixels {
  /** The number of pixels that hold all of a rectangle after the source stages; null where they are to be fetched. */
  held(target: Target, rectangle: SensorRectangle, sources: SourceInputs): number | null;
  /**
   * Fetches those of a rectangle; where a target has some already, and is moved over them, of some about it as well. What was
   * asked for before for the target is not waited for any more.
   */
  fetch(target: Target, rectangle: SensorRectangle, sources: SourceInputs): void;
  /** Fetches, behind a picture that is there, what lies about it: the view may be moved next. */
  widen(target: Target, rectangle: SensorRectangle, sources: SourceInputs): void;
  /** Takes an answer; the target whose newest pixels have come, or null. */
  take(answer: Extract<WorkerAnswer, { kind: 'full' }>): Target | null;
  /** Leaves all of them: the frame is left. */
  leaveAll(): void;
}

interface Held {
  number: number;
  rectangle: SensorRectangle;
  sources: string;
}

const about = ({ left, top, right, bottom }: SensorRectangle): SensorRectangle => ({
  left: left - SPARE,
  top: top - SPARE,
  right: right + SPARE,
  bottom: bottom + SPARE
});

let numbers = 0;

export function createFullPixels(
  crew: Crew,
  lent: Lent,
  { size, opening }: { size: FrameSize; opening: () => number }
): FullPixels {
  const held: Partial<Record<Target, Held>> = {};
  const fetching: Partial<Record<Target, { number: number; sources: string; quiet: boolean }>> = {};

  function ask(target: Target, rectangle: SensorRectangle, sources: SourceInputs, quiet: boolean): void {
    const number = ++numbers;
    fetching[target] = { number, sources: hashOf(sources), quiet };
    crew.tell(0, { kind: 'full', number, opening: opening(), rectangle, sources });
  }

  function leave(target: Target): void {
    const before = held[target];
    delete held[target];
    if (before) lent.leave(fullName(before.number));
  }

  return {
    held(target, rectangle, sources) {
      const known = held[target];
      return known && known.sources === hashOf(sources) && isWithin(rectangle, known.rectangle, size)
        ? known.number
        : null;
    },
    fetch(target, rectangle, sources) {
      ask(target, held[target] ? about(rectangle) : rectangle, sources, false);
    },
    widen(target, rectangle, sources) {
      const wide = about(rectangle);
      const known = held[target];
      if (fetching[target] || !known || isWithin(wide, known.rectangle, size)) return;
      ask(target, wide, sources, true);
    },
    take({ number, held: rectangle, source }) {
      const target = (Object.keys(fetching) as Target[]).find((each) => fetching[each]?.number === number);
      if (!target) {
        // Something newer was asked for meanwhile.
        if (rectangle) lent.leave(fullName(number));
        return null;
      }
      const { sources, quiet } = fetching[target]!;
      delete fetching[target];
      if (!rectangle) return quiet ? null : target;
      leave(target);
      held[target] = { number, rectangle, sources };
      if (source)
        for (let worker = 1; worker < crew.count; worker++)
          crew.tell(worker, { kind: 'full elsewhere', number, source });
      return quiet ? null : target;
    },
    leaveAll() {
      for (const target of Object.keys(held) as Target[]) leave(target);
      for (const target of Object.keys(fetching) as Target[]) delete fetching[target];
    }
  };
}
