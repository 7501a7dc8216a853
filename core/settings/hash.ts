/** A name for plain data: the same for the same values, whichever order its keys stand in. */
import { digest } from 'ohash';

const known = new WeakMap<object, string>();

/** Whether there is nothing in a list but numbers, words and lists of them: a stroke's points are named as one. */
const isFlat = (value: unknown): boolean =>
  typeof value !== 'object' || value === null || (Array.isArray(value) && value.every(isFlat));

function textOf(value: object): string {
  if (ArrayBuffer.isView(value)) return `${value.constructor.name}${(value as Uint8Array).join()}`;
  if (Array.isArray(value)) return isFlat(value) ? JSON.stringify(value) : `[${value.map(hashOf).join()}]`;
  const entries = Object.entries(value).filter(([, each]) => each !== undefined);
  return `{${entries
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, each]) => `${JSON.stringify(name)}:${hashOf(each)}`)
    .join()}}`;
}

/**
 * SHA-256 of plain data. What an object or a list is named is kept with it, so that a long stroke is read once and not
 * with every change beside it: nobody may change data in place that was named.
 */
export function hashOf(value: unknown): string {
  if (typeof value !== 'object' || value === null) return JSON.stringify(value) ?? 'undefined';
  const before = known.get(value);
  if (before) return before;
  const made = digest(textOf(value));
  known.set(value, made);
  return made;
}
