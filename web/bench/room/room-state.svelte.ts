/** How the window is shared on this bench, kept in the browser for the next frame and the next day. */
import { getContext, setContext, untrack } from 'svelte';
import {
  ALONE_MARGIN,
  BELOW,
  BOARD,
  type DeckPlace,
  type Layout,
  MARGIN,
  boardWidth,
  shareRoom
} from './share-room.ts';

const KEPT = 'bench-room';

interface Kept {
  deck: DeckPlace | 'auto';
  folded: boolean;
  index: boolean;
  /** As dragged; null as it comes. */
  board: number | null;
  below: number | null;
}

const AS_IT_COMES: Kept = { deck: 'auto', folded: false, index: true, board: null, below: null };
const between = (value: number, { least, most }: { least: number; most: number }): number =>
  Math.round(Math.min(most, Math.max(least, value)));

/** What was kept, as far as it is sound. */
function readKept(text: string | null): Kept {
  try {
    const found = JSON.parse(text ?? '{}') as Partial<Kept>;
    const size = (value: unknown, range: typeof BELOW): number | null =>
      typeof value === 'number' && Number.isFinite(value) ? between(value, range) : null;
    return {
      deck: found.deck === 'below' || found.deck === 'beside' ? found.deck : 'auto',
      folded: found.folded === true,
      index: found.index !== false,
      board: size(found.board, BOARD),
      below: size(found.below, BELOW)
    };
  } catch {
    return AS_IT_COMES;
  }
}

/** `aspect` is asked of the picture in hand, and again when nothing moves. */
export function createRoom(aspect: () => number, moving: () => boolean, hasIndex: boolean) {
  let kept = $state<Kept>(AS_IT_COMES);
  let size = $state({ width: 1280, height: 800 });
  let alone = $state(false);
  let readingsAlone = $state(false);
  let pointerLeft = $state(false);
  let besideSheet = $state(0);
  let layout = $state.raw<Layout>({ deck: 'beside', index: null });
  const dragged = $derived({ board: kept.board ?? boardWidth(size), below: kept.below ?? BELOW.least });
  const settle = (): void => {
    const { deck, folded, index } = kept;
    const wanted = { aspect: aspect(), deck, folded, index: index && hasIndex, dragged };
    const inHand = untrack(() => layout);
    const next = shareRoom(size, wanted, inHand);
    if (next.deck !== inHand.deck || next.index !== inHand.index) layout = next;
  };
  function set(next: Partial<Kept>): void {
    kept = { ...kept, ...next };
    localStorage.setItem(KEPT, JSON.stringify(kept));
  }
  return {
    /** In the browser: takes up what was kept. */
    begin(): void {
      kept = readKept(localStorage.getItem(KEPT));
    },
    /** To be run as an effect: the layout follows window and crop, but not while a control moves. */
    follow(): void {
      if (!moving()) settle();
    },
    get size() {
      return size;
    },
    set size(next) {
      size = next;
    },
    get layout() {
      return layout;
    },
    /** Whether the deck stands on the board beside the sheet. */
    get beside() {
      return layout.deck === 'beside';
    },
    get place() {
      return kept.deck;
    },
    set place(deck: Kept['deck']) {
      set({ deck });
    },
    get index() {
      return kept.index && hasIndex;
    },
    get folded() {
      return kept.folded;
    },
    get dragged() {
      return dragged;
    },
    dragTo(edge: 'board' | 'below', to: number | null): void {
      set({ [edge]: to === null ? null : between(to, edge === 'board' ? BOARD : BELOW) });
    },
    fold: (): void => set({ folded: !kept.folded }),
    showIndex: (): void => set({ index: !kept.index }),
    get alone() {
      return alone;
    },
    get readingsAlone() {
      return readingsAlone;
    },
    showReadings(): void {
      readingsAlone = !readingsAlone;
    },
    /** The picture alone with its surround, on the whole screen where the browser allows it. */
    setAlone(next: boolean): void {
      if (next === alone) return;
      alone = next;
      readingsAlone = false;
      if (next) document.documentElement.requestFullscreen?.().catch(() => {});
      else if (document.fullscreenElement) void document.exitFullscreen().catch(() => {});
    },
    /** Whether the pointer was last on the left half of the sheet. */
    get pointerLeft() {
      return pointerLeft;
    },
    set pointerLeft(left) {
      pointerLeft = left;
    },
    /** Width that a fine tool takes at the right of the sheet while it is large there. */
    get besideSheet() {
      return besideSheet;
    },
    set besideSheet(width) {
      besideSheet = width;
    },
    /** Free space about the picture. */
    get margin() {
      return alone ? ALONE_MARGIN : MARGIN;
    }
  };
}

export type Room = ReturnType<typeof createRoom>;
const KEY = Symbol('room');
export const provideRoom = (room: Room): Room => setContext(KEY, room);
/** The bench's room, for what lies on its deck. */
export const roomInHand = (): Room => getContext<Room>(KEY);
