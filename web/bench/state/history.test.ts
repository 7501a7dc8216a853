import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beginHistory, moving, settled, stepBack, stepForth } from './history.ts';

const changed = <T>(
  history: ReturnType<typeof beginHistory<T>>,
  next: T
): ReturnType<typeof beginHistory<T>> => settled(moving(history, next));

describe('steps back and forth', () => {
  it('takes a whole drag back at once, and gives it again', () => {
    let history = changed(beginHistory(0), 1);
    for (const value of [2, 3, 4]) history = moving(history, value);
    history = stepBack(settled(history));
    expect(history.present).toBe(1);
    expect(stepForth(history).present).toBe(4);
    expect(stepBack(history).present).toBe(0);
  });

  it('loses no step when it is asked for in the middle of a drag', () => {
    const dragged = moving(moving(changed(beginHistory(0), 1), 2), 3);
    const back = stepBack(dragged);
    expect([back.present, stepBack(back).present]).toEqual([1, 0]);
    expect(stepForth(back).present).toBe(3);
    expect(stepForth(dragged).present).toBe(3);
  });

  it('does not count what changed nothing, and drops what was taken back when another way is taken', () => {
    const two = changed(changed(beginHistory(0), 1), 2);
    expect(changed(two, 2).past).toEqual([0, 1]);
    const other = changed(stepBack(two), 5);
    expect(stepForth(other).present).toBe(5);
    expect(stepBack(other).present).toBe(1);
    expect(stepBack(beginHistory(7)).present).toBe(7);
  });

  it('goes back to the very start by as many steps as were made, up to two hundred', () => {
    fc.assert(
      fc.property(fc.array(fc.integer(), { minLength: 1, maxLength: 30 }), (values) => {
        const distinct = values.map((value, i) => `${i} ${value}`);
        let history = beginHistory('start');
        for (const value of distinct) history = changed(history, value);
        for (let i = distinct.length - 1; i > 0; i--) {
          history = stepBack(history);
          expect(history.present).toBe(distinct[i - 1]);
        }
        expect(stepBack(history).present).toBe('start');
      })
    );
    let long = beginHistory(0);
    for (let i = 1; i <= 300; i++) long = changed(long, i);
    expect(long.past.length).toBe(200);
  });
});
