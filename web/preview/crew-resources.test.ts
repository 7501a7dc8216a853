/** Looks, light and full-size pixels handed over between workers, in every order of answers. */
import { beforeEach, describe, expect, it } from 'vitest';
import { askForLight } from '$core/measure/light/light-resource.ts';
import type { ResourceLoader } from '$core/render/load-resources.ts';
import { keyOf } from '$core/picture/tile/resource.ts';
import { askForLook } from '$core/steps/colour/looks/look-resource.ts';
import { type Crew, createCrew } from './crew.ts';
import { crewResources, frameName } from './crew-resources.ts';
import { type FakeWorkers, fakeWorkers } from './fake-workers.ts';
import { type FullPixels, createFullPixels, fullName } from './full-pixels.ts';
import { type Lent, createLent } from './lent.ts';

const LIGHT = askForLight(3, null);
const tick = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

describe('resources on the bench', () => {
  let workers: FakeWorkers;
  let crew: Crew;
  let resources: ResourceLoader;
  let fetches: { path: string; answer: (bytes: Uint8Array<ArrayBuffer> | null) => void }[];
  beforeEach(() => {
    workers = fakeWorkers(3);
    fetches = [];
    crew = createCrew(workers.start, { said: () => {}, free: () => {}, died: () => {} });
    resources = crewResources(crew, (path) => new Promise((answer) => void fetches.push({ path, answer })));
    return () => crew.end();
  });
  const bytes = (id: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(id);
  /** Answers what worker 0 was asked to make, with its name as value. */
  const makeAll = (): void => {
    for (const { number, bytes: given } of workers.take(0, 'make'))
      workers.answer(0, {
        kind: 'made',
        number,
        said: '',
        value: new TextDecoder().decode(given ?? undefined)
      });
  };

  it('shows the look that was asked for last, in whichever order two are answered', async () => {
    for (const order of [
      [0, 1],
      [1, 0]
    ]) {
      const ids = [`first ${order.join('')}`, `second ${order.join('')}`];
      const loads = ids.map((id) => resources.load([askForLook(id)], 'f'));
      const asked = fetches.splice(0);
      expect(asked.map(({ path }) => path)).toEqual(ids.map((id) => `looks/${id}`));
      for (const i of order) {
        asked[i].answer(bytes(ids[i]));
        await tick();
        makeAll();
        await loads[i];
        expect(resources.lease([askForLook(ids[i])], 'f')!.values.get(keyOf(askForLook(ids[i])))).toBe(
          ids[i]
        );
      }
      // Every other worker has both, by their keys.
      for (const worker of [1, 2])
        expect(workers.take(worker, 'have').map(({ value }) => value)).toEqual(order.map((i) => ids[i]));
    }
  });

  it('never takes a look from workers that draw with it', async () => {
    const has = async (id: string): Promise<void> => {
      const loaded = resources.load([askForLook(id)], 'f');
      fetches.at(-1)!.answer(bytes(id));
      await tick();
      makeAll();
      await loaded;
    };
    await has('a');
    const lease = resources.lease([askForLook('a')], 'f')!;
    for (const id of ['b', 'c', 'd']) await has(id);
    const dropped = (): string[] => workers.take(0, 'drop').map(({ key }) => key);
    expect(dropped()).toEqual([askForLook('b'), askForLook('c')].map(keyOf));
    lease.end();
    expect(dropped()).toEqual([keyOf(askForLook('a'))]);
    for (const worker of [1, 2]) expect(workers.take(worker, 'drop')).toHaveLength(3);
  });

  it('has the light of a frame made of what source stages left of it, and not of another frame’s', async () => {
    const first = resources.load([LIGHT], frameName(4, null));
    await tick();
    const [plain] = workers.take(0, 'make');
    expect(plain.developed).toBeNull();
    workers.answer(0, { kind: 'made', number: plain.number, said: '', value: 'as it came' });
    await first;
    expect(resources.lease([LIGHT], frameName(4, 'mended xyz'))).toBeNull();
    const second = resources.load([LIGHT], frameName(4, 'mended xyz'));
    await tick();
    const [changed] = workers.take(0, 'make');
    expect(changed.developed).toBe('mended xyz');
    workers.answer(0, { kind: 'made', number: changed.number, said: 'no memory', value: null });
    await expect(second).rejects.toThrow('no memory');
    expect(resources.lease([LIGHT], frameName(5, null))).toBeNull();
  });

  it('says which look is missing, and leaves it', async () => {
    const loaded = resources.load([askForLook('gone')], 'f');
    fetches[0].answer(null);
    await loaded;
    expect(resources.isMissing(askForLook('gone'), 'f')).toBe(true);
    expect(workers.take(0, 'make')).toEqual([]);
  });
});

describe('full-size pixels', () => {
  const size = { width: 4000, height: 3000 };
  const rectangle = (left: number) => ({ left, top: 100, right: left + 500, bottom: 600 });
  let workers: FakeWorkers;
  let crew: Crew;
  let lent: Lent;
  let gone: string[];
  let full: FullPixels;
  beforeEach(() => {
    workers = fakeWorkers();
    gone = [];
    crew = createCrew(workers.start, { said: () => {}, free: () => {}, died: () => {} });
    lent = createLent((name) => gone.push(name));
    full = createFullPixels(crew, lent, { size, opening: () => 8 });
    return () => crew.end();
  });
  const asked = () => workers.take(0, 'full')[0];
  const come = (task: ReturnType<typeof asked>, source: object | null = {}) =>
    full.take({
      kind: 'full',
      number: task.number,
      opening: 8,
      held: source && task.rectangle,
      source: source as never,
      message: ''
    });

  it('are held for what was asked for, then about it, and handed to the other workers', () => {
    full.fetch('sheet', rectangle(1000), []);
    const task = asked();
    expect(full.held('sheet', rectangle(1000), [])).toBeNull();
    expect(come(task)).toBe('sheet');
    expect(full.held('sheet', rectangle(1000), [])).toBe(task.number);
    expect(full.held('sheet', rectangle(1100), [])).toBeNull();
    full.fetch('sheet', rectangle(1100), []);
    const further = asked();
    come(further);
    expect(full.held('sheet', rectangle(1200), [])).toBe(further.number);
    expect(full.held('sheet', rectangle(1400), [])).toBeNull();
    expect(full.held('magnifier', rectangle(1000), [])).toBeNull();
    // What lies beyond the sensor is not missing.
    full.fetch('sheet', { left: -400, top: -300, right: 200, bottom: 200 }, []);
    const corner = asked();
    come(corner);
    expect(full.held('sheet', { left: -9000, top: -300, right: 200, bottom: 200 }, [])).toBe(corner.number);
    expect(workers.take(1, 'full elsewhere').map(({ number }) => number)).toEqual([
      task.number,
      further.number,
      corner.number
    ]);
  });

  it('are others for other source stages', () => {
    const mended = [{ stage: 'mend', data: { strokes: 1 } }];
    full.fetch('sheet', rectangle(1000), mended);
    const task = asked();
    expect(task.sources).toEqual(mended);
    come(task);
    expect(full.held('sheet', rectangle(1000), mended)).toBe(task.number);
    expect(full.held('sheet', rectangle(1000), [])).toBeNull();
  });

  it('stay while a tile is drawn from them, in whichever order answers come', () => {
    full.fetch('sheet', rectangle(1000), []);
    const first = asked();
    come(first);
    const end = lent.lend(fullName(first.number));
    full.fetch('sheet', rectangle(2000), []);
    const second = asked();
    full.fetch('sheet', rectangle(3000), []);
    const third = asked();
    // The last one comes before the one that nobody waits for any more.
    expect(come(third)).toBe('sheet');
    expect(come(second)).toBeNull();
    expect(gone).toEqual([fullName(second.number)]);
    expect(full.held('sheet', rectangle(3000), [])).toBe(third.number);
    end();
    expect(gone).toEqual([fullName(second.number), fullName(first.number)]);
    full.leaveAll();
    expect(gone.at(-1)).toBe(fullName(third.number));
  });

  it('that cannot be had leave what there is', () => {
    full.fetch('sheet', rectangle(1000), []);
    const first = asked();
    come(first);
    full.fetch('sheet', rectangle(3000), []);
    expect(come(asked(), null)).toBe('sheet');
    expect(full.held('sheet', rectangle(1000), [])).toBe(first.number);
    expect(gone).toEqual([]);
  });
});
