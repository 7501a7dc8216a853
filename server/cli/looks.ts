/** Looks of a call: those that a recipe carries, and .cube files that are named with --look. */
import { basename, extname } from 'node:path';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { UserError } from '../user-error.ts';
import { SHIPPED_LOOKS } from '../../core/steps/colour/looks/shipped-looks.ts';
import { type Looks, findAmong, lookOfCube, readRecipeFile } from '../recipes/recipe-file.ts';
import type { FindStored } from '../render/frame-resources.ts';
import { readInput } from './files.ts';

/** The looks of .cube files, by their names without ending. */
export async function looksOf(paths: readonly string[] = []): Promise<Looks> {
  const looks = new Map<string, Uint8Array>();
  for (const path of paths) {
    const name = basename(path, extname(path));
    if (looks.has(name)) throw new UserError(`Two looks are called ${name}. Rename one of the files.`);
    looks.set(name, lookOfCube((await readInput(path)).toString('utf8'), path));
  }
  return looks;
}

/**
 * A recipe from a file, and where its looks are found. One look alone is laid over what names none, and stands for one that is not
 * known here; of several the recipe names one by its file.
 */
export function withLooks(file: unknown, named: Looks): { recipe: PartialRecipe; findStored: FindStored } {
  const { recipe, looks, skies } = readRecipeFile(file);
  const known: Looks = new Map([...looks, ...named]);
  const findStored = findAmong(known, skies);
  if (named.size === 0) return { recipe, findStored };
  const wanted = recipe.colour?.look ?? null;
  if (wanted !== null && (known.has(wanted) || Object.hasOwn(SHIPPED_LOOKS, wanted)))
    return { recipe, findStored };
  if (named.size > 1)
    throw new UserError(
      `Several looks were given, and the recipe names ${wanted === null ? 'none' : `"${wanted}"`}. Name one of them in its colour.look: ${[...named.keys()].join(', ')}.`
    );
  const [look] = named.keys();
  return { recipe: { ...recipe, colour: { ...recipe.colour, look } }, findStored };
}
