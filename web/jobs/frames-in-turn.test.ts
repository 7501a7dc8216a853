import { expect, it } from 'vitest';
import { type FrameDone, doneText, framesInTurn } from './frames-in-turn.ts';

const frames = ['a', 'b', 'c', 'd', 'e'].map((id) => ({ id, name: id.toUpperCase() }));
const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

it('has two in hand at once, and tells of all in their order, whichever was done first', async () => {
  let inHand = 0;
  let most = 0;
  const told: [number, string][] = [];
  const made = await framesInTurn(
    frames,
    async (id): Promise<FrameDone> => {
      most = Math.max(most, ++inHand);
      await pause(id === 'a' ? 40 : 5);
      inHand--;
      if (id === 'd') throw new Error('It failed.');
      return { look: id === 'a' || id === 'b' ? `look at ${id}` : null, version: id === 'c' ? undefined : 3 };
    },
    (done, name) => {
      told.push([done, name]);
      return true;
    }
  );
  expect(most).toBe(2);
  expect(told.map(([, name]) => name)).toEqual(['A', 'B', 'C', 'D', 'E']);
  expect(told.map(([done]) => done)).toEqual([...told.map(([done]) => done)].sort());
  expect(made.done).toBe(5);
  expect(made.looks).toEqual([
    { id: 'a', name: 'A', why: 'look at a' },
    { id: 'b', name: 'B', why: 'look at b' },
    { id: 'd', name: 'D', why: 'It failed.' }
  ]);
  expect(made.changed.map(({ id }) => id)).toEqual(['a', 'b', 'e']);
  expect(doneText(made, 'prepared')).toBe('5 frames prepared; 3 want a look.');
});

it('begins none after it was stopped, and ends those in hand', async () => {
  const done: string[] = [];
  const made = await framesInTurn(
    frames,
    async (id) => {
      await pause(5);
      done.push(id);
      return { look: null };
    },
    (count) => count < 2
  );
  expect(done).toEqual(expect.arrayContaining(['a', 'b']));
  expect(made.done).toBe(done.length);
  expect(done.length).toBeLessThanOrEqual(3);
});
