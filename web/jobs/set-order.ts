/** Frames of a job in the order, and of the kind, that is asked for. */
import type { FrameCard } from '$server/set/frame-card.ts';
import type { FrameChoiceName } from '$server/frames/frame-row.ts';

export const ORDERS = ['name', 'time', 'state', 'plumb'] as const;
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

/** What each order goes by; frames without it come last. */
const KEYS: Record<Order, (card: FrameCard) => number | null> = {
  name: () => 0,
  time: ({ frame }) => (frame.facts?.taken ? Date.parse(frame.facts.taken) : null),
  state: progressOf,
  // The worst first: they want work.
  plumb: ({ readings: { plumb } }) => plumb && -plumb.rms
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
