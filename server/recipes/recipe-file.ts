/**
 * A recipe as a file, for the command line: with the looks and skies that it names in it, as .cube text and as pictures, since only the app
 * that they were imported into knows them.
 */
import { parseCube, writeCube, CubeError } from '../../core/steps/colour/looks/cube-file.ts';
import { LOOK_SPACES, type LookSpace } from '../../core/steps/colour/looks/look.ts';
import { SHIPPED_LOOKS } from '../../core/steps/colour/looks/shipped-looks.ts';
import { readStoredLook, storeLook } from '../../core/steps/colour/looks/stored-look.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { UserError } from '../user-error.ts';
import type { FindStored } from '../render/frame-resources.ts';
import { shippedBytes } from '../render/shipped-bytes.ts';
import { skyBytes, skyFile } from '../skies/sky-file.ts';
import { shownSkies } from './shown-skies.ts';
import { validRecipe } from './validate.ts';

interface CarriedLook {
  cube: string;
  space: LookSpace;
}

/** Looks as bytes, by what recipes know them by. */
export type Looks = ReadonlyMap<string, Uint8Array>;

/** The bytes of a look from a .cube file; `path` is for what is said of it. */
export function lookOfCube(cube: string, path: string, space: LookSpace = 'srgb'): Uint8Array {
  try {
    return storeLook(parseCube(cube, path, space));
  } catch (error) {
    if (error instanceof CubeError) throw new UserError(`${path}: ${error.message}`);
    throw error;
  }
}

/** Pictures of skies, by what recipes know them by. */
export type Skies = ReadonlyMap<string, Uint8Array>;

/** The looks that a recipe needs and that do not come with Line True. */
const foreign = ({ colour }: PartialRecipe): string[] =>
  colour?.look && !Object.hasOwn(SHIPPED_LOOKS, colour.look) ? [colour.look] : [];

/** A recipe with the looks and the skies that it names; `findSky` gives the picture of one that does not ship. */
export async function recipeFile(
  recipe: PartialRecipe,
  findStored: FindStored,
  findSky: (id: string) => Promise<Uint8Array | null>
): Promise<object> {
  const looks: Record<string, CarriedLook> = {};
  for (const id of foreign(recipe)) {
    const bytes = await findStored(`looks/${id}`);
    if (!bytes) continue;
    const look = readStoredLook(bytes);
    looks[id] = { cube: writeCube(look), space: look.space };
  }
  const skies: Record<string, string> = {};
  for (const id of shownSkies(recipe)) {
    const picture = await findSky(id);
    if (picture) skies[id] = Buffer.from(picture).toString('base64');
  }
  return {
    ...recipe,
    ...(Object.keys(looks).length > 0 && { looks }),
    ...(Object.keys(skies).length > 0 && { skies })
  };
}

const isCarried = (value: unknown): value is CarriedLook => {
  const { cube, space } = (value ?? {}) as Partial<CarriedLook>;
  return typeof cube === 'string' && LOOK_SPACES.includes(space!);
};

/** A recipe from a file, in the present format, with the looks and skies that it carries; throws a UserError. */
export function readRecipeFile(file: unknown): { recipe: PartialRecipe; looks: Looks; skies: Skies } {
  // What is no recipe at all is for validation to refuse.
  if (!file || typeof file !== 'object' || Array.isArray(file))
    return { recipe: validRecipe(file), looks: new Map(), skies: new Map() };
  const { looks = {}, skies = {}, ...recipe } = file as { looks?: unknown; skies?: unknown };
  const listed = Object.entries(looks && typeof looks === 'object' ? looks : { looks });
  const read = listed.map(([id, look]): [string, Uint8Array] => {
    if (!isCarried(look))
      throw new UserError(`The look "${id}" of the recipe is not whole. Write the recipe out again.`);
    return [id, lookOfCube(look.cube, `The look "${id}" of the recipe`, look.space)];
  });
  const pictures = Object.entries((skies ?? {}) as object).map(([id, picture]): [string, Uint8Array] => {
    if (typeof picture !== 'string' || picture === '')
      throw new UserError(`The sky "${id}" of the recipe is not whole. Write the recipe out again.`);
    return [id, Buffer.from(picture, 'base64')];
  });
  return { recipe: validRecipe(recipe), looks: new Map(read), skies: new Map(pictures) };
}

/** Where looks and skies are found: in some that were given, and in those that come along. */
export const findAmong =
  (looks: Looks, skies: Skies): FindStored =>
  async (path) => {
    const [kind, id] = path.split('/');
    if (kind === 'looks') return looks.get(id) ?? shippedBytes(path);
    const picture = kind === 'skies' ? skies.get(id) : null;
    if (!picture) return shippedBytes(path);
    // It came in a file: it is looked at as any picture is that is taken in.
    return skyBytes((await skyFile(picture)).picture);
  };
