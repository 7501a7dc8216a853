/** Memory of the workers that tiles are drawn from, by name: it goes when it was left and no tile in hand is drawn from it. */
export interface Lent {
  /** Lends what has a name; the function ends it. */
  lend(name: string): () => void;
  /** Nobody will draw from it any more, once those are done that do. */
  leave(name: string): void;
}

export function createLent(gone: (name: string) => void): Lent {
  const uses = new Map<string, number>();
  const left = new Set<string>();
  const settle = (name: string): void => {
    if (!left.has(name) || (uses.get(name) ?? 0) > 0) return;
    left.delete(name);
    uses.delete(name);
    gone(name);
  };
  return {
    lend(name) {
      uses.set(name, (uses.get(name) ?? 0) + 1);
      let ended = false;
      return () => {
        if (ended) return;
        ended = true;
        uses.set(name, uses.get(name)! - 1);
        settle(name);
      };
    },
    leave(name) {
      left.add(name);
      settle(name);
    }
  };
}
