/** How the bench shares its window: where deck and index stand so that the picture loses least. */

/** Where the controls of a step stand: under the sheet in columns, or beside it under the course. */
export type DeckPlace = 'below' | 'beside';
/** Where the job's frames stand: as a strip above the sheet, or as a column at its far side. */
export type IndexPlace = 'above' | 'aside';

export interface Size {
  width: number;
  height: number;
}

/** Sizes of what stands about the sheet, in pixels. */
export const BAND = 40;
export const READINGS = 40;
export const COURSE = 124;
export const RULER = 18;
export const INDEX = { above: 64, aside: 92 } as const;
/** Free space between sheet and picture. */
export const MARGIN = 10;
export const ALONE_MARGIN = 4;

/** Height of the deck below, and width of the board beside: as they come, and as they may be dragged. */
export const BELOW = { least: 156, most: 340 };
export const BOARD = { least: 347, most: 520, share: 0.21 };
export const boardWidth = (window: Size): number =>
  Math.round(Math.min(BOARD.most, Math.max(BOARD.least, window.width * BOARD.share)));

export interface Layout {
  deck: DeckPlace | 'folded';
  /** Null where it is hidden. */
  index: IndexPlace | null;
}

export interface Dragged {
  board: number;
  below: number;
}

/** What is left for the sheet within its rulers. */
export function sheetSize(window: Size, { deck, index }: Layout, { board, below }: Dragged): Size {
  return {
    width:
      window.width - (deck === 'beside' ? board : COURSE) - (index === 'aside' ? INDEX.aside : 0) - RULER,
    height:
      window.height -
      BAND -
      READINGS -
      (deck === 'below' ? below : 0) -
      (index === 'above' ? INDEX.above : 0) -
      RULER
  };
}

/** Pixels that a picture of an aspect (width over height) covers when all of it is seen on a sheet. */
export function covered(sheet: Size, aspect: number): number {
  const [width, height] = [Math.max(0, sheet.width - 2 * MARGIN), Math.max(0, sheet.height - 2 * MARGIN)];
  return Math.min(width, height * aspect) * Math.min(height, width / aspect);
}

/** A layout in hand stays until another one shows the picture by so much larger. */
const WORTH_MOVING = 1.06;

export interface Wanted {
  /** Aspect of the crop. */
  aspect: number;
  deck: DeckPlace | 'auto';
  folded: boolean;
  index: boolean;
  dragged: Dragged;
}

/** The layout that shows most of the picture, of those that are wanted. */
export function shareRoom(
  window: Size,
  { aspect, deck, folded, index, dragged }: Wanted,
  inHand: Layout | null = null
): Layout {
  const decks: Layout['deck'][] = folded ? ['folded'] : deck === 'auto' ? ['beside', 'below'] : [deck];
  const indexes: Layout['index'][] = index ? ['above', 'aside'] : [null];
  const layouts = decks.flatMap((place) => indexes.map((at): Layout => ({ deck: place, index: at })));
  const sizeOf = (layout: Layout): number => covered(sheetSize(window, layout, dragged), aspect);
  const best = layouts.reduce((a, b) => (sizeOf(b) > sizeOf(a) ? b : a));
  const kept = layouts.find((layout) => layout.deck === inHand?.deck && layout.index === inHand.index);
  return kept && sizeOf(best) < WORTH_MOVING * sizeOf(kept) ? kept : best;
}
