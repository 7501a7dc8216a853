/** A picture that masks are drawn on, and what is kept of the one that they were drawn on last. */
import type { Matrix3 } from '../../math/matrix3.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';

export interface Pictured {
  /** The whole frame as it was developed. */
  planes: PlacedPlanes;
  toWorking: Matrix3;
  /** Names the picture: what has the same name is the same. Null: nothing is kept of it. */
  picture: string | null;
}

/**
 * Makes what keeps values of one picture by their keys, the newest `most` of them: a change of a mask begins with what it leaves as
 * it was.
 */
export function keptOfPicture<T>(most: number): (of: Pictured, key: string, make: () => T) => T {
  let picture: string | null = null;
  let values = new Map<string, T>();
  return (of, key, make) => {
    if (of.picture === null) return make();
    const name = `${of.picture} ${of.toWorking.join(' ')}`;
    if (name !== picture) [picture, values] = [name, new Map()];
    const value = values.has(key) ? values.get(key)! : make();
    values.delete(key);
    values.set(key, value);
    for (const [oldest] of values) {
      if (values.size <= most) break;
      values.delete(oldest);
    }
    return value;
  };
}
