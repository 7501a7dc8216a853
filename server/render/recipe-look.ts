/** The look that a recipe names, in memory that render threads share; it is the caller's to give back. */
import { giveBack, takeFloat32 } from '../../core/picture/kernels/heap.ts';
import type { Look } from '../../core/steps/colour/looks/look.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { UserError } from '../decode/user-error.ts';

/** Finds a look by what recipes call it. */
export type FindLook = (id: string) => Look | null | Promise<Look | null>;

/** Null where the recipe names none; throws a UserError where the look is not known. */
export async function takeLook({ colour }: Recipe, find: FindLook): Promise<Look | null> {
  if (!colour.enabled || colour.look === null || colour.lookAmount === 0) return null;
  const look = await find(colour.look);
  if (!look)
    throw new UserError(
      'The look of this frame is not known here. Import it, or choose another on the page Looks of Colour.'
    );
  const values = takeFloat32(look.values.length);
  values.set(look.values);
  return { ...look, values };
}

export const giveLookBack = (look: Look | null): void => {
  if (look) giveBack(look.values);
};
