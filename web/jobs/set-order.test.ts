import { describe, expect, it } from 'vitest';
import type { FrameCard } from '$server/set/frame-card.ts';
import { FILTERS, inOrder, passes } from './set-order.ts';

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
  card('F10', { facts: { taken: '2026-05-14T10:00:00' }, version: 2 }, { readings: plumb(0.1) }),
  card(
    'F9',
    { facts: { taken: '2026-05-14T12:00:00' }, choice: 'chosen' },
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

  it('leaves those that are asked for', () => {
    const left = FILTERS.map((filter) => names(SET.filter((one) => passes(one, filter))));
    expect(left).toEqual(['F10 F9 F2 F1', 'F9', 'F10 F1', 'F2', 'F9', 'F2']);
  });
});
