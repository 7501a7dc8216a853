/** Ajv at every boundary, from the one definition of each setting. */
import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import { lensProfileSchema, type PartialProfile } from '../../core/lens/profile.ts';
import { recipeSchema, type PartialRecipe } from '../../core/recipe/schema.ts';
import { UserError } from '../decode/user-error.ts';

const ajv = new Ajv({ allErrors: true, allowUnionTypes: true });
for (const keyword of ['label', 'unit', 'step']) ajv.addKeyword(keyword);

function inWords(error: ErrorObject): string {
  const where = error.instancePath.slice(1).replaceAll('/', '.') || 'the document';
  if (error.keyword === 'additionalProperties')
    return `${where} has an unknown entry "${error.params.additionalProperty}"`;
  if (error.keyword === 'enum') return `${where} must be one of ${error.params.allowedValues.join(', ')}`;
  return `${where} ${error.message}`;
}

/** A function that returns its argument as valid, or throws a UserError naming every fault. */
export function validator<T>(schema: object, what: string): (value: unknown) => T {
  let check: ValidateFunction | null = null;
  return (value) => {
    check ??= ajv.compile(schema);
    if (check(value)) return value as T;
    const faults = [...new Set((check.errors ?? []).map(inWords))].slice(0, 5);
    throw new UserError(`This ${what} is not valid: ${faults.join('; ')}.`);
  };
}

export const validRecipe = validator<PartialRecipe>(recipeSchema, 'recipe');
export const validProfile = validator<PartialProfile>(lensProfileSchema, 'lens profile');
