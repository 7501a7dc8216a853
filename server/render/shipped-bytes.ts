/** What resources are made from, as far as it comes with Line True and needs no database. */
import { SHIPPED_LOOKS } from '../../core/steps/colour/looks/shipped-looks.ts';
import { storeLook } from '../../core/steps/colour/looks/stored-look.ts';

/** The bytes of a path such as `looks/plaster`; null where there are none. */
export function shippedBytes(path: string): Uint8Array | null {
  const [kind, name] = path.split('/');
  return kind === 'looks' && Object.hasOwn(SHIPPED_LOOKS, name) ? storeLook(SHIPPED_LOOKS[name]()) : null;
}
