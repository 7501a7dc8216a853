/** A look as a resource: read from where looks are kept, into memory that threads share. */
import { takeFloat32 } from '../../../picture/kernels/heap.ts';
import type { Ask, Resource } from '../../../picture/tile/resource.ts';
import type { LookTable } from './look.ts';
import { readStoredLook } from './stored-look.ts';

/** What the look is known by. */
export interface LookName {
  id: string;
}

export const lookResource: Resource<'look', LookName, LookTable> = {
  name: 'look',
  of: 'all',
  stored: ({ id }) => `looks/${id}`,
  make({ bytes }) {
    const look = readStoredLook(bytes!);
    const values = takeFloat32(look.values.length);
    values.set(look.values);
    return { ...look, values };
  },
  memory: ({ values }) => [values],
  missing:
    'The look of this frame is not known here. Import it, or choose another on the page Looks of Colour.'
};

export const askForLook = (id: string): Ask<'look', LookName> => ({ resource: 'look', data: { id } });
