import { describe, expect, it } from 'vitest';
import { askForLight } from '../measure/light/light-resource.ts';
import { type Ask, keyOf } from '../picture/tile/resource.ts';
import { askForLook } from '../steps/colour/looks/look-resource.ts';
import { MissingResource, type Wanted, createResourceLoader } from './load-resources.ts';
import type { AnyResource } from './resources.ts';

const tick = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));
const LIGHT = askForLight(3, null);

/** A maker whose answers come when and in which order the test says. */
function maker() {
  const asked: (Wanted & {
    resource: AnyResource;
    reads: Parameters<Parameters<typeof createResourceLoader>[0]['make']>[2];
    answer: (value: unknown) => void;
    fail: (error: Error) => void;
  })[] = [];
  const back: unknown[] = [];
  const loader = createResourceLoader({
    make: (wanted, resource, reads) =>
      new Promise((answer, fail) => void asked.push({ ...wanted, resource, reads, answer, fail })),
    giveBack: (_, value) => void back.push(value)
  });
  return { loader, asked, back };
}
const look = (id: string): Ask => askForLook(id);

describe('the loader of resources', () => {
  it('has each made once, whoever asks and however often, and lends it by the key that stages know', async () => {
    const { loader, asked } = maker();
    expect(loader.lease([look('a'), LIGHT], 'frame 1')).toBeNull();
    const both = [loader.load([look('a'), LIGHT], 'frame 1'), loader.load([look('a')], 'frame 1')];
    expect(asked.map(({ ask }) => ask.resource)).toEqual(['look', 'light']);
    asked[1].answer('light 1');
    asked[0].answer('look a');
    await Promise.all(both);
    const lease = loader.lease([look('a'), LIGHT], 'frame 1')!;
    expect(lease.values.get(keyOf(look('a')))).toBe('look a');
    expect(lease.values.get(keyOf(LIGHT))).toBe('light 1');
    // Another frame has another light, and the same look.
    expect(loader.lease([look('a')], 'frame 2')).not.toBeNull();
    expect(loader.lease([LIGHT], 'frame 2')).toBeNull();
  });

  it('never gives back what is lent, and the rest but the newest of each', async () => {
    const { loader, asked, back } = maker();
    const has = async (id: string): Promise<void> => {
      const loaded = loader.load([look(id)], 'f');
      asked.at(-1)!.answer(id);
      await loaded;
    };
    await has('a');
    const lease = loader.lease([look('a')], 'f')!;
    await has('b');
    await has('c');
    expect(back).toEqual(['b']);
    lease.end();
    lease.end();
    expect(back).toEqual(['b', 'a']);
    await has('d');
    expect(back).toEqual(['b', 'a', 'c']);
    // What was lent last is the newest.
    const [first, second] = [loader.lease([look('d')], 'f')!, loader.lease([look('d')], 'f')!];
    first.end();
    loader.forget(true);
    expect(back).toEqual(['b', 'a', 'c']);
    expect(loader.lease([look('d')], 'f')).toBeNull();
    second.end();
    expect(back).toEqual(['b', 'a', 'c', 'd']);
  });

  it('has what was forgotten and is still lent again, when it is asked for again', async () => {
    const { loader, asked, back } = maker();
    const loaded = loader.load([look('a')], 'f');
    asked[0].answer('a');
    await loaded;
    const lease = loader.lease([look('a')], 'f')!;
    loader.forget(true);
    expect(loader.lease([look('a')], 'f')).toBeNull();
    await loader.load([look('a')], 'f');
    expect(loader.lease([look('a')], 'f')!.values.get(keyOf(look('a')))).toBe('a');
    lease.end();
    expect(back).toEqual([]);
    expect(asked).toHaveLength(1);
  });

  it('takes answers in any order, and those that come after the frame was left are given back', async () => {
    const { loader, asked, back } = maker();
    const loads = ['a', 'b'].map((id) => loader.load([look(id)], 'f'));
    const lit = loader.load([LIGHT], 'f 1');
    asked[1].answer('b');
    await loads[1];
    expect(loader.lease([look('b')], 'f')!.values.size).toBe(1);
    expect(loader.lease([look('a')], 'f')).toBeNull();
    loader.forget();
    asked[2].answer('light of before');
    await lit;
    expect(back).toEqual(['light of before']);
    expect(loader.lease([LIGHT], 'f 1')).toBeNull();
    asked[0].answer('a');
    await loads[0];
    expect(loader.lease([look('a')], 'f')).not.toBeNull();
  });

  it('asks for what is missing once, until frames change; other errors are told and tried again', async () => {
    const { loader, asked } = maker();
    const first = loader.load([look('gone')], 'f');
    asked[0].fail(new MissingResource(asked[0].resource));
    await first;
    expect(loader.isMissing(look('gone'), 'f')).toBe(true);
    expect(loader.isMissing(look('other'), 'f')).toBe(false);
    await loader.load([look('gone')], 'f');
    expect(asked).toHaveLength(1);
    loader.forget();
    expect(loader.isMissing(look('gone'), 'f')).toBe(false);
    const second = loader.load([look('gone')], 'f');
    asked[1].fail(new Error('broken'));
    await expect(second).rejects.toThrow('broken');
    const third = loader.load([look('gone')], 'f');
    asked[2].answer('there');
    await third;
    expect(loader.lease([look('gone')], 'f')!.values.get(keyOf(look('gone')))).toBe('there');
  });

  it('keeps several of one kind that are read together, until others were', async () => {
    const { loader, asked, back } = maker();
    const of = (ids: string): Ask[] => [...ids].map(look);
    const load = async (ids: string): Promise<void> => {
      const before = asked.length;
      const loaded = loader.load(of(ids), 'f');
      asked.slice(before).forEach(({ ask, answer }) => answer(ask.data));
      await loaded;
    };
    await load('abc');
    const lease = loader.lease(of('abc'), 'f')!;
    expect(lease.values.size).toBe(3);
    // Nothing reads them between two pictures, and they are there for the next.
    lease.end();
    expect(back).toEqual([]);
    loader.lease(of('abc'), 'f')!.end();
    await load('d');
    loader.lease(of('abc'), 'f')!.end();
    // One of them changes, again and again: the others stay.
    for (const other of 'efgh') {
      await load(`ab${other}`);
      loader.lease(of(`ab${other}`), 'f')!.end();
    }
    expect(asked).toHaveLength(8);
    expect(back.length).toBeGreaterThanOrEqual(3);
    loader.forget(true);
    expect(back).toHaveLength(8);
  });

  it('has what a resource reads made first, lends it meanwhile, and makes it without what cannot be had', async () => {
    const { loader, asked, back } = maker();
    const lit = askForLight(3, look('under'));
    const loaded = loader.load([lit], 'f');
    expect(asked.map(({ ask }) => ask.resource)).toEqual(['look']);
    asked[0].answer('look under');
    await tick();
    expect(asked[1].reads.values.get(keyOf(look('under')))).toBe('look under');
    // Others come and go while it is being made.
    const others = loader.load([look('other')], 'f');
    asked[2].answer('other');
    await others;
    expect(back).toEqual([]);
    asked[1].answer('light');
    await loaded;
    expect(loader.lease([lit], 'f')!.values.get(keyOf(lit))).toBe('light');
    const gone = askForLight(3, look('gone'));
    const second = loader.load([gone], 'f');
    asked[3].fail(new MissingResource(asked[3].resource));
    await tick();
    expect(asked[4].reads.values.size).toBe(0);
    asked[4].answer('light without');
    await second;
    expect(loader.isMissing(gone, 'f')).toBe(false);
  });

  it('lends what is much alike only where that will do, of the same frame and kind', async () => {
    const { loader, asked } = maker();
    const [one, other, earlier] = [askForLight(3, look('a')), askForLight(3, null), askForLight(2, null)];
    const loaded = loader.load([other], 'f');
    asked[0].answer('light');
    await loaded;
    expect(loader.lease([one], 'f')).toBeNull();
    expect(loader.lease([one], 'f', true)!.values.get(keyOf(one))).toBe('light');
    expect(loader.lease([one], 'g', true)).toBeNull();
    expect(loader.lease([earlier], 'f', true)).toBeNull();
    expect(loader.lease([look('a')], 'f', true)).toBeNull();
  });
});
