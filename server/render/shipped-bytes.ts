/** What resources are made from, as far as it comes with Line True and needs no database. */
import { SHIPPED_LOOKS } from '../../core/steps/colour/looks/shipped-looks.ts';
import { storeLook } from '../../core/steps/colour/looks/stored-look.ts';
import { shippedSkyFile } from '../skies/shipped-skies.ts';
import { skyBytes } from '../skies/sky-file.ts';

/** The bytes of a path such as `looks/plaster` or `skies/first-light`; null where there are none. */
export async function shippedBytes(path: string): Promise<Uint8Array | null> {
  const [kind, name] = path.split('/');
  if (kind === 'looks' && Object.hasOwn(SHIPPED_LOOKS, name)) return storeLook(SHIPPED_LOOKS[name]());
  const sky = kind === 'skies' ? await shippedSkyFile(name) : null;
  return sky && skyBytes(sky);
}
