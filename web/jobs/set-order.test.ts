import { describe, expect, it } from 'vitest';
import type { FrameCard } from '$server/set/frame-card.ts';
import { FILTERS, bracketWords, inGroups, inOrder, movedBefore, passes } from './set-order.ts';

const card = (name: string, more: object = {}, own: Partial<FrameCard> = {}): FrameCard =>
  ({
    frame: { name, state: 'ready', version: 0, recipe: {}, facts: {}, choice: 'undecided', ...more },
    lens: 'lens profile',
    readings: { plumb: null, straight: null },
    look: null,
    early: false,
    ...own
  }) as unknown as FrameCard;
const names = (cards: FrameCard[]): string => cards.map(({ frame }) => frame.name).join(' ');

const plumb = (rms: number) => ({ plumb: { rms } }) as FrameCard['readings'];

const SET = [
  card('F10', { facts: { taken: '2026:05:14 10:00:00' }, version: 2 }, { readings: plumb(0.1) }),
  card(
    'F9',
    { facts: { taken: '2026:05:14 12:00:00' }, choice: 'chosen' },
    { readings: plumb(1.4), look: 'off' }
  ),
  card('F2', { version: 1, recipe: { lines: { pitch: 3 } }, choice: 'left out' }, { lens: null }),
  card('F1', { state: 'preparing', facts: null }, { lens: null })
];

describe('the order of a set', () => {
  it('is that of the numbers in names', () => expect(names(inOrder(SET, 'name'))).toBe('F1 F2 F9 F10'));
  it('is that of the exposures, those without a time last', () =>
    expect(names(inOrder(SET, 'time'))).toBe('F10 F9 F1 F2'));
  it('is that of the work done', () => expect(names(inOrder(SET, 'state'))).toBe('F1 F9 F10 F2'));
  it('is that of the verticals, the worst first', () =>
    expect(names(inOrder(SET, 'plumb'))).toBe('F9 F10 F1 F2'));

  it('is that of a hand, those that were given no place last', () => {
    const placed = [card('A', { place: 3 }), card('B'), card('C', { place: 1 }), card('A2')];
    expect(names(inOrder(placed, 'hand'))).toBe('C A A2 B');
  });

  it('brings frames of one room together, by the time within it, those of none last', () => {
    const at = (name: string, room: string, minute: number): FrameCard =>
      card(name, { room, facts: { taken: `2026:05:14 10:${String(minute).padStart(2, '0')}:00` } });
    const groups = inGroups(
      [at('A', 'Kitchen', 5), at('B', '', 1), at('C', 'hall', 9), at('D', 'kitchen ', 2)],
      'room'
    );
    expect(groups.map(({ title, cards }) => `${title}: ${names(cards)}`)).toEqual([
      'hall: C',
      'kitchen: D A',
      'No room named: B'
    ]);
    expect(inGroups(SET, 'name')).toEqual([{ title: null, cards: inOrder(SET, 'name') }]);
  });

  it('says which of a bracket a frame is', () => {
    const shot = (id: string, second: number, exposureTime: number, more: object = {}): FrameCard =>
      card(id, {
        id,
        facts: {
          taken: `2026:05:14 10:00:${String(second).padStart(2, '0')}`,
          exposureTime,
          aperture: 8,
          iso: 100,
          lens: 'Wide',
          focalLength: 16,
          size: { width: 6, height: 4 },
          ...more
        }
      });
    const words = bracketWords([
      shot('late', 50, 1 / 60),
      shot('b', 2, 1 / 15),
      shot('a', 1, 1 / 60),
      shot('c', 3, 1 / 4),
      // The same exposure again begins another bracket; another focal length is another view.
      shot('d', 6, 1 / 60),
      shot('e', 7, 1 / 15),
      shot('f', 8, 1 / 4, { focalLength: 24 })
    ]);
    expect([...words]).toEqual([
      ['a', '1 of 3'],
      ['b', '2 of 3'],
      ['c', '3 of 3'],
      ['d', '1 of 2'],
      ['e', '2 of 2']
    ]);
  });

  it('is changed by putting some before another', () => {
    const moved = (which: string, before: string | null): string =>
      movedBefore([...'abcdef'], [...which], before).join('');
    expect(moved('e', 'b')).toBe('aebcdf');
    expect(moved('a', 'd')).toBe('bcadef');
    expect(moved('bd', null)).toBe('acefbd');
    expect(moved('db', 'a')).toBe('bdacef');
    expect(moved('bc', 'c')).toBe('abcdef');
    expect(moved('f', 'f')).toBe('abcdef');
    expect(moved('abcdef', 'c')).toBe('abcdef');
  });

  it('leaves those that are asked for', () => {
    const left = FILTERS.map((filter) => names(SET.filter((one) => passes(one, filter))));
    expect(left).toEqual(['F10 F9 F2 F1', 'F9', 'F10 F1', 'F2', 'F9', 'F2']);
  });
});
