import { beforeEach, describe, expect, it } from 'vitest';
import type { View } from '$core/picture/tile/mesh.ts';
import { type Crew, createCrew } from './crew.ts';
import { type FakeWorkers, fakeWorkers } from './fake-workers.ts';
import { COUNTS } from './histogram.ts';
import type { Target, TileTask } from './messages.ts';
import { type DrawingOrder, type Scheduler, createScheduler } from './scheduler.ts';
import { tilesOf } from './view-tiles.ts';

const VIEW: View = { left: 0, top: 0, pixel: 1, width: 80, height: 40 };

describe('the scheduler', () => {
  let workers: FakeWorkers;
  let crew: Crew;
  let scheduler: Scheduler;
  let events: string[];
  beforeEach(() => {
    workers = fakeWorkers();
    events = [];
    crew = createCrew(workers.start, { said: () => {}, free: () => scheduler.work(), died: () => {} });
    scheduler = createScheduler(crew);
    return () => crew.end();
  });
  const order = (name: string, target: Target = 'sheet'): DrawingOrder =>
    ({
      target,
      view: VIEW,
      tiles: tilesOf(VIEW, 20),
      stages: { name },
      resources: [],
      source: { level: 0, developed: null },
      draft: false,
      meshError: 0.02,
      keep: true,
      count: { x: 0, y: 0, width: 2, height: 2 },
      done: ({ pixels, counts }: { pixels: Uint8ClampedArray; counts: Uint32Array }) =>
        events.push(`${name} done ${new Set(pixels).size} ${counts[0]}`),
      ended: () => events.push(`${name} ended`)
    }) as unknown as DrawingOrder;
  /** Answers the tile that a worker has in hand; its pixels are all of one value. */
  function finish(worker: number, value: number | null = 7): TileTask | undefined {
    const [task] = workers.take(worker, 'tile');
    if (!task) return undefined;
    const { width, height } = task.view;
    const pixels = value === null ? null : new Uint8Array(width * height * 4).fill(value).buffer;
    const counts = new Uint32Array(COUNTS);
    counts[0] = width * height;
    workers.answer(worker, { kind: 'tile', drawing: task.drawing, index: task.index, pixels, counts });
    return task;
  }

  it('draws all tiles, puts them together, and sends what they are made by once to each worker', () => {
    scheduler.begin(order('a'));
    let drawn = 0;
    while (finish(0) || finish(1)) drawn++;
    expect(drawn).toBe(8);
    expect(events).toEqual(['a ended', 'a done 1 3200']);
    for (const worker of [0, 1]) {
      const [inputs, ...more] = workers.take(worker, 'inputs');
      expect(inputs).toMatchObject({ stages: { name: 'a' } });
      expect(more).toEqual([]);
      expect(workers.take(worker, 'done')).toEqual([{ kind: 'done', drawing: inputs.number }]);
      // No tile carries them.
      for (const task of workers.told[worker])
        if (task.kind === 'tile') expect(task).not.toHaveProperty('stages');
    }
  });

  it('gives each worker one tile at a time, and the more urgent picture first', () => {
    scheduler.begin(order('sheet'));
    scheduler.begin(order('near', 'magnifier'));
    expect(workers.told[0].filter(({ kind }) => kind === 'tile')).toHaveLength(1);
    finish(0);
    const [next] = workers.take(0, 'tile');
    const inputs = workers.take(0, 'inputs');
    expect(inputs.find(({ number }) => number === next.drawing)).toMatchObject({ stages: { name: 'near' } });
  });

  it('leaves a picture for a newer one, and says that it ended once no worker has any of it in hand', () => {
    scheduler.begin(order('old'));
    scheduler.begin(order('new'));
    expect(events).toEqual([]);
    finish(0, 9);
    expect(events).toEqual([]);
    finish(1, 9);
    expect(events).toEqual(['old ended']);
    while (finish(0, 5) || finish(1, 5));
    // Nothing of the old one is in the new.
    expect(events).toEqual(['old ended', 'new ended', 'new done 1 3200']);
  });

  it('leaves a picture whose pixels are gone, and all of them when the frame is left', () => {
    scheduler.begin(order('gone'));
    finish(0, null);
    expect(scheduler.isDrawing('sheet')).toBe(false);
    finish(1);
    expect(events).toEqual(['gone ended']);
    scheduler.begin(order('left'));
    scheduler.leaveAll();
    expect(scheduler.isDrawing('sheet')).toBe(false);
    finish(0);
    finish(1);
    expect(events).toEqual(['gone ended', 'left ended']);
  });
});
