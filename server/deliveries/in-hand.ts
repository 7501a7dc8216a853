/** Pictures of a frame in hand at once: while one is encoded on one core, the next is rendered on the other. */
export const AT_ONCE = 3;

/** Begins the next piece of work (`made` is its end); null when there is none left. */
export type Begin = () => Promise<{ made: Promise<void> } | null>;

/**
 * Keeps up to `most` pieces of work in hand until there is none left to begin; resolves to the end of those that are
 * still in hand then. Rejects when one fails, once the others have ended.
 */
export async function keepInHand(begin: Begin, most: number): Promise<{ rest: Promise<void> }> {
  const inHand = new Set<Promise<void>>();
  const all = async (): Promise<void> => {
    const failed = (await Promise.allSettled(inHand)).find((result) => result.status === 'rejected');
    if (failed) throw failed.reason;
  };
  try {
    for (let work = await begin(); work; work = await begin()) {
      const piece = work.made.then(() => void inHand.delete(piece));
      // One that fails stays in hand until all of them are heard: while the next is begun, nobody listens to it.
      piece.catch(() => {});
      inHand.add(piece);
      if (inHand.size >= most) await Promise.race(inHand);
    }
  } catch (error) {
    await Promise.allSettled(inHand);
    throw error;
  }
  return { rest: all() };
}
