/** Recipes that are dropped with photographs: photo.json is the recipe of photo.dng. */

export const isRecipeFile = (name: string): boolean => /\.json$/i.test(name);

const stemOf = (name: string): string => name.replace(/\.[^.]*$/, '').toLowerCase();
const isFinished = (name: string): boolean => /\.(jpe?g|png|tiff?)$/i.test(name);

/** The frames that a recipe is of: where a raw file and its finished picture have one name, the raw file. */
export function framesOfRecipe<F extends { name: string }>(file: string, frames: readonly F[]): F[] {
  const named = frames.filter(({ name }) => stemOf(name) === stemOf(file));
  const raw = named.filter(({ name }) => !isFinished(name));
  return raw.length > 0 ? raw : named;
}
