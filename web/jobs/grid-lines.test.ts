import { expect, it } from 'vitest';
import type { FrameCard } from '$server/set/frame-card.ts';
import { columnsIn, gridLines } from './grid-lines.ts';

const cards = (count: number): FrameCard[] => Array.from({ length: count }, (_, i) => ({ i }) as never);

it('has as many frames beside each other as fit, never none', () => {
  expect([0, 280, 577, 578, 1224].map(columnsIn)).toEqual([1, 1, 1, 2, 4]);
});

it('begins each group on a line of its own, under its title, and leaves nothing out', () => {
  const groups = [
    { title: 'Hall', cards: cards(5) },
    { title: 'Kitchen', cards: cards(1) }
  ];
  const { lines, height } = gridLines(groups, 4);
  expect(lines.map(({ title, cards }) => title ?? cards.length)).toEqual(['Hall', 4, 1, 'Kitchen', 1]);
  for (const [i, { top }] of lines.entries())
    expect(top).toBe(i === 0 ? 0 : lines[i - 1].top + lines[i - 1].height);
  expect(height).toBe(lines.at(-1)!.top + lines.at(-1)!.height);
  expect(new Set(lines.map(({ key }) => key)).size).toBe(lines.length);
  expect(gridLines([{ title: null, cards: [] }], 4)).toEqual({ lines: [], height: 0 });
});
