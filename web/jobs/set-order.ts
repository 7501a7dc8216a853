/** Frames of a job in the order, and of the kind, that is asked for. */
import type { FrameCard } from '$server/set/frame-card.ts';
import { bracketsOf, secondsOf } from '$core/optics/bracket.ts';
import type { FrameChoiceName } from '$server/frames/frame-row.ts';

export const ORDERS = ['name', 'time', 'room', 'state', 'plumb', 'hand'] as const;
export type Order = (typeof ORDERS)[number];

export const FILTERS = [
  'all',
  'chosen',
  'undecided',
  'left out',
  'wanting a look',
  'without a lens profile'
] as const;
export type Filter = (typeof FILTERS)[number];

const STATES = ['failed', 'preparing', 'ready'];
/** Names as people sort them: 9 before 10. */
const byName = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** How far a frame has come: what cannot be opened first, then what is prepared, new, in work and trued up. */
function progressOf({ frame }: FrameCard): number {
  const lines = frame.recipe.lines;
  const worked = frame.version === 0 ? 0 : lines && (lines.roll || lines.pitch) ? 2 : 1;
  return STATES.indexOf(frame.state) + (frame.state === 'ready' ? worked : 0);
}

const takenAt = ({ frame }: FrameCard): number | null =>
  frame.facts?.taken ? secondsOf(frame.facts.taken) : null;

/** What each order goes by; frames without it come last. */
const KEYS: Record<Order, (card: FrameCard) => number | null> = {
  name: () => 0,
  time: takenAt,
  // Rooms are parted after this: within one, brackets stand together.
  room: takenAt,
  state: progressOf,
  // The worst first: they want work.
  plumb: ({ readings: { plumb } }) => plumb && -plumb.rms,
  hand: ({ frame }) => frame.place
};

export function inOrder(cards: readonly FrameCard[], order: Order): FrameCard[] {
  const key = KEYS[order];
  const value = (card: FrameCard): number => key(card) ?? Infinity;
  return [...cards].sort((a, b) => {
    const [first, second] = [value(a), value(b)];
    return first === second ? byName.compare(a.frame.name, b.frame.name) : first - second;
  });
}

const isChoice = (filter: Filter): filter is FrameChoiceName & Filter =>
  filter === 'chosen' || filter === 'undecided' || filter === 'left out';

export function passes(card: FrameCard, filter: Filter): boolean {
  if (isChoice(filter)) return card.frame.choice === filter;
  if (filter === 'wanting a look') return card.look !== null;
  if (filter === 'without a lens profile') return card.frame.facts !== null && card.lens === null;
  return true;
}

export interface CardGroup {
  /** What is written above it; null: nothing. */
  title: string | null;
  cards: FrameCard[];
}

/** Frames as they are shown: by room those of one room together, the rooms by their names, and those without one last. */
export function inGroups(cards: readonly FrameCard[], order: Order): CardGroup[] {
  const sorted = inOrder(cards, order);
  if (order !== 'room') return [{ title: null, cards: sorted }];
  const rooms = new Map<string, CardGroup>();
  for (const card of sorted) {
    const title = card.frame.room.trim();
    const key = title.toLowerCase();
    rooms.set(key, rooms.get(key) ?? { title: title || 'No room named', cards: [] });
    rooms.get(key)!.cards.push(card);
  }
  return [...rooms]
    .sort(([a], [b]) => Number(a === '') - Number(b === '') || byName.compare(a, b))
    .map(([, group]) => group);
}

/** Which of a bracket each frame is, as "2 of 3", by its id. */
export function bracketWords(cards: readonly FrameCard[]): Map<string, string> {
  const groups = bracketsOf(cards, ({ frame }) => frame.facts);
  return new Map(
    groups.flatMap((group) => group.map(({ frame }, i) => [frame.id, `${i + 1} of ${group.length}`] as const))
  );
}

/** An order in which some frames stand before another one, or last; those that are moved keep theirs among each other. */
export function movedBefore(
  ids: readonly string[],
  moved: readonly string[],
  before: string | null
): string[] {
  const own = ids.filter((id) => moved.includes(id));
  const rest = ids.filter((id) => !moved.includes(id));
  // A frame that is moved itself: its place is that of the next one that stays.
  const from = before === null ? ids.length : ids.indexOf(before);
  const next = ids.slice(from).find((id) => !moved.includes(id));
  const at = next === undefined ? rest.length : rest.indexOf(next);
  return [...rest.slice(0, at), ...own, ...rest.slice(at)];
}
