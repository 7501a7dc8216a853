/** Recipes as files that lie beside their originals. */
import { nameKey, safeName } from '../../core/picture/output/file-name.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { storedBytes } from '../looks/looks.ts';
import { recipeFile } from '../recipes/recipe-file.ts';
import { ownSkyFile } from '../skies/skies.ts';

/** A recipe as the command line takes it: with the looks and skies of this installation that it names. */
export const frameRecipeFile = (context: Context, recipe: PartialRecipe): Promise<object> =>
  recipeFile(
    recipe,
    (path) => storedBytes(context, path),
    (id) => ownSkyFile(context, id)
  );

/** Names for originals and their recipes beside them, each stem once on every file system. */
export function pathsBeside(frames: readonly { name: string }[]): { file: string; recipe: string }[] {
  const taken = new Set<string>();
  return frames.map(({ name }) => {
    const safe = safeName(name);
    const dot = safe.lastIndexOf('.');
    const [stem, ending] = dot > 0 ? [safe.slice(0, dot), safe.slice(dot)] : [safe, ''];
    let free = stem;
    for (let n = 2; taken.has(nameKey(free)); n++) free = `${stem}-${n}`;
    taken.add(nameKey(free));
    return { file: `${free}${ending}`, recipe: `${free}.json` };
  });
}
