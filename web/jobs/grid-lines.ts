/** Frames in lines under one another, as many beside each other as there is room for, under the titles of their groups. */
import type { CardGroup } from './set-order.ts';
import type { FrameCard } from '$server/set/frame-card.ts';

export const GAP = 18;
export const FRAME = { least: 280, height: 283 };
const TITLE = 34;

export interface GridLine {
  key: string;
  /** From the top of the grid. */
  top: number;
  height: number;
  title: string | null;
  cards: FrameCard[];
}

export const columnsIn = (width: number): number =>
  Math.max(1, Math.floor((width + GAP) / (FRAME.least + GAP)));

/** The lines and the height of all of them. */
export function gridLines(
  groups: readonly CardGroup[],
  columns: number
): { lines: GridLine[]; height: number } {
  const lines: GridLine[] = [];
  let top = 0;
  const add = (key: string, height: number, title: string | null, cards: FrameCard[]): void => {
    lines.push({ key, top, height, title, cards });
    top += height;
  };
  for (const { title, cards } of groups) {
    if (title !== null) add(`title ${title}`, TITLE, title, []);
    for (let from = 0; from < cards.length; from += columns)
      add(`${title} ${from}`, FRAME.height + GAP, null, cards.slice(from, from + columns));
  }
  return { lines, height: top };
}
