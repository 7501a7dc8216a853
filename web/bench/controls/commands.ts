/** Commands of the bench: one list for shortcuts, the page of them, tooltips, and the box in which one can be found. */
import type { StepName } from '$core/recipe/steps.ts';

export interface Command {
  id: string;
  label: string;
  group: string;
  /** Keys in the notation of tinykeys, the first of them shown; none is needed. */
  keys: readonly string[];
  /** Acts; with the keyboard, `by` is 10 while Shift is held. */
  run(by: number): void;
  /** For a key that is held: when it is let go. */
  release?(): void;
  /** Why it acts on nothing now; null when it acts. */
  idle?(): string | null;
  /** The step in which its keys are heard; everywhere when it names none. */
  step?: StepName;
  /** Shift with its keys does ten times as much. */
  tenfold?: boolean;
}

const WORDS: Record<string, string> = {
  $mod: 'Ctrl',
  Control: 'Ctrl',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Escape: 'Esc',
  Space: 'Space'
};

/** A shortcut as it is told: "Ctrl+Shift+Z". */
export const keyText = (keys: string): string =>
  keys
    .split(' ')
    .map((press) =>
      press
        .replace(/\+\+$/, '+Plus')
        .split('+')
        .map((key) => (key === 'Plus' ? '+' : (WORDS[key] ?? (key.length === 1 ? key.toUpperCase() : key))))
        .join('+')
    )
    .join(' ');

/** What a control's tooltip says: what it does, why it rests, and its shortcut. */
export function tooltip(command: Command): string {
  const idle = command.idle?.() ?? null;
  const keys = command.keys[0] ? ` (${keyText(command.keys[0])}${command.release ? ' held' : ''})` : '';
  return `${idle ?? command.label}${keys}`;
}

/** Commands that a text finds: each word begins a word of the label or the group; best, those whose label begins with it. */
export function findCommands(commands: readonly Command[], text: string): Command[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const begins = (where: string, word: string): boolean =>
    where
      .toLowerCase()
      .split(/[^\p{L}\p{N}:]+/u)
      .some((part) => part.startsWith(word));
  const first = ({ label }: Command): number => (label.toLowerCase().startsWith(words[0] ?? '') ? 0 : 1);
  return commands
    .filter(({ label, group }) => words.every((word) => begins(`${group} ${label}`, word)))
    .sort((a, b) => first(a) - first(b));
}

/** Whether a control takes these keys for itself, so that no shortcut may act. */
export function isTakenBy(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.closest('dialog')) return true;
  if (target.matches('[data-handle]')) return /^(Arrow|Delete|Backspace|Enter| )/.test(key);
  const type = target instanceof HTMLInputElement ? target.type : '';
  if (type === 'range' || target.matches('[role=tab], [role=slider]'))
    return /^(Arrow|Home|End|Page)/.test(key);
  if (type === 'checkbox' || target.matches('button, a, summary')) return key === ' ' || key === 'Enter';
  return target.matches('input, select, textarea') || target.isContentEditable;
}
