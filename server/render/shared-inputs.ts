/**
 * Plain data that many tasks share, written once and read once by each thread: cloned with every band of a picture, a long
 * brush stroke would take longer than the picture.
 */
export interface SharedInputs {
  number: number;
  /** JSON in UTF-8. */
  text: Uint8Array<SharedArrayBuffer>;
}

let counter = 0;

export function shareInputs(data: unknown): SharedInputs {
  const bytes = new TextEncoder().encode(JSON.stringify(data));
  const text = new Uint8Array(new SharedArrayBuffer(bytes.length));
  text.set(bytes);
  return { number: ++counter, text };
}

/** Of the last few pictures that a thread works on. */
const read = new Map<number, unknown>();
const MOST_READ = 4;

export function readInputs<T>({ number, text }: SharedInputs): T {
  if (!read.has(number)) {
    // A decoder takes no shared memory.
    read.set(number, JSON.parse(new TextDecoder().decode(text.slice())));
    for (const oldest of read.keys()) {
      if (read.size <= MOST_READ) break;
      read.delete(oldest);
    }
  }
  return read.get(number) as T;
}
