/** Hears the shortcuts of commands. */
import { createKeybindingsHandler } from 'tinykeys';
import { type Command, isTakenBy } from './commands.ts';

/** Hears keys on the window until the answer is called; `inHand` tells whether a command's step is the one in hand. */
export function hearKeys(commands: readonly Command[], inHand: (command: Command) => boolean): () => void {
  const held = new Set<Command>();
  const release = (): void => {
    for (const command of held) command.release?.();
    held.clear();
  };
  const act = (command: Command, by: number) => (event: KeyboardEvent) => {
    if (!inHand(command) || isTakenBy(event.target, event.key)) return;
    event.preventDefault();
    if (command.release) {
      if (held.has(command)) return;
      held.add(command);
    }
    if ((command.idle?.() ?? null) === null) command.run(by);
  };
  const handlers = commands.map((command) => {
    const bindings = command.keys.flatMap((keys): [string, (event: KeyboardEvent) => void][] => [
      [keys, act(command, 1)],
      ...(command.tenfold ? [[`Shift+${keys}`, act(command, 10)] as [string, () => void]] : [])
    ]);
    return createKeybindingsHandler(Object.fromEntries(bindings));
  });
  const down = (event: Event): void => handlers.forEach((handle) => handle(event));
  window.addEventListener('keydown', down);
  window.addEventListener('keyup', release);
  window.addEventListener('blur', release);
  return () => {
    window.removeEventListener('keydown', down);
    window.removeEventListener('keyup', release);
    window.removeEventListener('blur', release);
  };
}
