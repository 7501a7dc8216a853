import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Crew, createCrew } from './crew.ts';
import { type FakeWorkers, fakeWorkers } from './fake-workers.ts';
import type { TileTask } from './messages.ts';

const tile = (index: number): TileTask => ({ kind: 'tile', index }) as TileTask;
const ask = { kind: 'ask', number: 1 } as never;

describe('the crew of workers', () => {
  let workers: FakeWorkers;
  let crew: Crew;
  let died: number;
  beforeEach(() => {
    vi.useFakeTimers();
    workers = fakeWorkers();
    died = 0;
    crew = createCrew(workers.start, { said: () => {}, free: () => {}, died: () => void died++ });
  });
  afterEach(() => {
    crew.end();
    vi.useRealTimers();
  });
  const answer = (worker: number, kind = 'tile'): void => workers.answer(worker, { kind } as never);

  it('hands answers to whoever gave the task, in the order of the tasks', () => {
    const heard: string[] = [];
    crew.give(0, ask, () => heard.push('question'));
    crew.give(0, tile(3), () => heard.push('tile'));
    expect([crew.isFree(0), crew.isFree(1)]).toEqual([false, true]);
    answer(0, 'answer');
    expect(crew.isFree(0)).toBe(false);
    answer(0);
    expect(heard).toEqual(['question', 'tile']);
    expect(crew.isFree(0)).toBe(true);
  });

  it('takes a worker that does not answer a tile for dead, also while a question is open elsewhere', () => {
    crew.give(0, ask, () => {});
    crew.give(1, tile(0), () => {});
    vi.advanceTimersByTime(9_000);
    expect(died).toBe(0);
    vi.advanceTimersByTime(3_000);
    expect([died, workers.ended]).toEqual([1, true]);
  });

  it('lets a long question take its time, and the tile after it as long as any', () => {
    crew.give(0, ask, () => {});
    crew.give(0, tile(0), () => {});
    vi.advanceTimersByTime(40_000);
    answer(0, 'answer');
    vi.advanceTimersByTime(9_000);
    expect(died).toBe(0);
    vi.advanceTimersByTime(3_000);
    expect(died).toBe(1);
  });

  it('does not wait for ever for a question either, nor mind idleness', () => {
    vi.advanceTimersByTime(1_000_000);
    expect(died).toBe(0);
    crew.give(0, ask, () => {});
    vi.advanceTimersByTime(130_000);
    expect(died).toBe(1);
  });

  it('tells of a death once, and of nothing after it', () => {
    let answered = 0;
    crew.give(0, tile(0), () => void answered++);
    workers.die();
    workers.die();
    answer(0);
    crew.tell(0, { kind: 'ahead', frames: [] });
    expect([died, answered]).toEqual([1, 0]);
    expect(workers.told[0]).toHaveLength(1);
  });
});
