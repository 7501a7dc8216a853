/** Ajv at every boundary, from the one definition of each setting. */
import addFormats from 'ajv-formats';
import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import { SETTING_KEYWORDS } from '../../core/settings/step.ts';
import { UserError } from '../user-error.ts';

// The first fault ends the check: a document made to have very many must not keep the server busy.
const ajv = new Ajv({ allowUnionTypes: true });
// Days that there are, of the calendar.
addFormats.default(ajv, ['date']);
for (const keyword of SETTING_KEYWORDS) ajv.addKeyword(keyword);

function inWords(error: ErrorObject): string {
  const where = error.instancePath.slice(1).replaceAll('/', '.') || 'the document';
  if (error.keyword === 'additionalProperties')
    return `${where} has an unknown entry "${error.params.additionalProperty}"`;
  if (error.keyword === 'enum') return `${where} must be one of ${error.params.allowedValues.join(', ')}`;
  return `${where} ${error.message}`;
}

/** A function that returns its argument as valid, or throws a UserError naming the fault. */
export function validator<T>(schema: object, what: string): (value: unknown) => T {
  let check: ValidateFunction | null = null;
  return (value) => {
    check ??= ajv.compile(schema);
    if (check(value)) return value as T;
    const faults = [...new Set((check.errors ?? []).map(inWords))];
    const [, field] = check.errors?.[0].instancePath.split('/') ?? [];
    throw new UserError(`This ${what} is not valid: ${faults.join('; ')}.`, field);
  };
}
