/** Files derived from originals: made anew whenever they are missing. */
import { join } from 'node:path';

export function derivedPath(data: string, sha256: string, file: string): string {
  return join(data, 'derived', sha256.slice(0, 2), sha256, file);
}

/** The bytes of an array that may be a part of its memory. */
export const bytesOf = ({ buffer, byteOffset, byteLength }: Uint16Array): Uint8Array =>
  new Uint8Array(buffer, byteOffset, byteLength);
