/** The skies that come with Line True: pictures in a folder of their own, made by the demo camera. */
import { readdirSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { ROOT } from '../paths.ts';

export const SHIPPED_SKIES = join(ROOT, 'server/skies/shipped');

/** By what recipes call them, with their names. */
export const shippedSkies = (): { id: string; name: string }[] =>
  readdirSync(SHIPPED_SKIES)
    .filter((file) => file.endsWith('.jpg'))
    .sort()
    .map((file) => {
      const id = file.replace(/\.jpg$/, '');
      return { id, name: `${id[0].toUpperCase()}${id.slice(1)}`.replace(/-/g, ' ') };
    });

/** The picture of one of them, as a file; null: there is none. */
export async function shippedSkyFile(id: string): Promise<Buffer | null> {
  return shippedSkies().some((sky) => sky.id === id) ? readFile(join(SHIPPED_SKIES, `${id}.jpg`)) : null;
}
