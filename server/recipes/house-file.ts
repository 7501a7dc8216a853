/** House settings as a file. */
import {
  type HouseSettings,
  type HouseSteps,
  houseSettingsSchema,
  unknownSteps
} from '../../core/recipe/house-settings.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { stepByName } from '../../core/recipe/steps.ts';
import { validator } from '../documents/validator.ts';
import { UserError } from '../user-error.ts';
import { validRecipe } from './validate.ts';

/** What a file of them says that it is. */
export const HOUSE_FILE = 'line-true-house-settings';
const MOST_AT_ONCE = 500;

const validShape = validator<{ name: string; folder?: string; steps: object }>(
  houseSettingsSchema,
  'set of house settings'
);

/** House settings that can be used, from anything; says what is wrong with them. */
export function validHouseSettings(input: unknown): HouseSettings {
  const { name, folder = '', steps } = validShape(input);
  const strange = unknownSteps(steps);
  if (strange) throw new UserError(`The house settings “${name}” cannot be used. ${strange}`);
  return { name: name.trim(), folder: folder.trim(), steps: stepsAlone(validRecipe(steps)) };
}

/** What of a recipe are steps. */
export const stepsAlone = (recipe: PartialRecipe): HouseSteps =>
  Object.fromEntries(Object.entries(recipe).filter(([name]) => stepByName(name))) as HouseSteps;

/** The sets of a file, all of them sound; else a UserError. */
export function soundHouseFile(file: unknown): HouseSettings[] {
  const { format, sets } = (file ?? {}) as { format?: unknown; sets?: unknown };
  if (format !== HOUSE_FILE || !Array.isArray(sets) || sets.length === 0 || sets.length > MOST_AT_ONCE)
    throw new UserError(
      `This is no file of house settings. Such a file says "format": "${HOUSE_FILE}" and lists one to ${MOST_AT_ONCE} of them under "sets".`
    );
  return sets.map(validHouseSettings);
}
