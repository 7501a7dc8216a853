/** Which half of a picture a view is drawn from. */

/**
 * Number of halvings after which the source still has a pixel for every output pixel, where `reduction` source pixels make
 * one; `nearest` takes the level nearest to it, for a picture in motion.
 */
export function levelFor(reduction: number, nearest = false): number {
  const halvings = Math.log2(Math.max(1, reduction));
  return nearest ? Math.round(halvings) : Math.floor(halvings);
}
