import { describe, expect, it } from 'vitest';
import type { Crew } from './crew.ts';
import { createFullPixels, fullName } from './full-pixels.ts';
import type { WorkerTask } from './messages.ts';

type Full = Extract<WorkerTask, { kind: 'full' }>;
const SOURCES = [] as never;
const size = { width: 6000, height: 4000 };
const rectangle = { left: 1000, top: 800, right: 1900, bottom: 1400 };
const moved = { left: 1100, top: 800, right: 2000, bottom: 1400 };
const wide = { left: 808, top: 608, right: 2092, bottom: 1592 };

function set() {
  const told: WorkerTask[] = [];
  const left: string[] = [];
  const crew = { count: 2, tell: (_: number, task: WorkerTask) => void told.push(task) } as unknown as Crew;
  const lent = { lend: () => () => {}, leave: (name: string) => void left.push(name) };
  const full = createFullPixels(crew, lent, { size, opening: () => 1 });
  const asked = (): Full[] => told.filter((task): task is Full => task.kind === 'full');
  const come = (task: Full, held: Full['rectangle'] | null = task.rectangle) =>
    full.take({ kind: 'full', number: task.number, opening: 1, held, source: null, message: '' } as never);
  return { full, asked, come, left };
}

describe('full-size pixels', () => {
  it('are those of the view first, and those about it behind the picture that is there', () => {
    const { full, asked, come, left } = set();
    full.widen('sheet', rectangle, SOURCES);
    expect(asked()).toEqual([]);
    full.fetch('sheet', rectangle, SOURCES);
    expect(asked()[0].rectangle).toEqual(rectangle);
    expect(come(asked()[0])).toBe('sheet');
    const first = full.held('sheet', rectangle, SOURCES);
    expect(first).toBe(asked()[0].number);
    expect(full.held('sheet', moved, SOURCES)).toBeNull();
    full.widen('sheet', rectangle, SOURCES);
    full.widen('sheet', rectangle, SOURCES);
    expect(asked().map((task) => task.rectangle)).toEqual([rectangle, wide]);
    // Nothing is drawn again for them, and the view may be moved over them.
    expect(come(asked()[1])).toBeNull();
    expect(left).toEqual([fullName(first!)]);
    expect(full.held('sheet', moved, SOURCES)).toBe(asked()[1].number);
    full.widen('sheet', rectangle, SOURCES);
    expect(asked()).toHaveLength(2);
  });

  it('that a view waits for come before those about another one, which are given back', () => {
    const { full, asked, come, left } = set();
    full.fetch('sheet', rectangle, SOURCES);
    come(asked()[0]);
    full.widen('sheet', rectangle, SOURCES);
    const away = { left: 4000, top: 800, right: 4900, bottom: 1400 };
    full.fetch('sheet', away, SOURCES);
    expect(come(asked()[1])).toBeNull();
    expect(left).toEqual([fullName(asked()[1].number)]);
    expect(come(asked()[2])).toBe('sheet');
    expect(full.held('sheet', away, SOURCES)).toBe(asked()[2].number);
  });

  it('that cannot be had leave those that are there', () => {
    const { full, asked, come } = set();
    full.fetch('sheet', rectangle, SOURCES);
    come(asked()[0]);
    full.widen('sheet', rectangle, SOURCES);
    expect(come(asked()[1], null)).toBeNull();
    expect(full.held('sheet', rectangle, SOURCES)).toBe(asked()[0].number);
  });
});
