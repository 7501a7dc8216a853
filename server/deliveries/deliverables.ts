/** The studio's deliverables: ready-made ones and its own. */
import {
  type Deliverable,
  SHIPPED_DELIVERABLES,
  completeDeliverable,
  deliverableFault,
  deliverableSchema
} from '../../core/picture/output/deliverable-schema.ts';
import { unknownTokens, TOKENS } from '../../core/picture/output/file-name.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { validator } from '../documents/validator.ts';
import { checkWatermark } from '../render/watermark.ts';

export interface DeliverableRow {
  id: string;
  document: Deliverable;
  shipped: boolean;
}

const validate = validator<Partial<Deliverable> & { name: string }>(deliverableSchema, 'deliverable');

/** A deliverable that can be used, from anything; says what is wrong with it. */
export async function soundDeliverable(input: unknown): Promise<Deliverable> {
  const deliverable = completeDeliverable(validate(input));
  const fault = deliverableFault(deliverable);
  if (fault) throw new UserError(fault.message, fault.field);
  const { pattern, title, caption, name } = deliverable;
  const unknown = [pattern, title, caption].flatMap(unknownTokens);
  if (unknown.length > 0)
    throw new UserError(
      `"${name}" uses {${unknown[0]}}, which there is not. Tokens are ${TOKENS.map((token) => `{${token}}`).join(', ')}.`,
      unknownTokens(pattern).length > 0 ? 'pattern' : 'title'
    );
  if (!pattern.trim()) throw new UserError(`"${name}" has no pattern for its file names.`, 'pattern');
  await checkWatermark(deliverable.watermark);
  return deliverable;
}

/** Lists them; the ready-made ones are put there the first time. */
export async function listDeliverables(context: Context): Promise<DeliverableRow[]> {
  const read = async (): Promise<DeliverableRow[]> => {
    const { rows } = await context.db.query<DeliverableRow>(
      'select id, document, shipped from deliverables order by shipped desc, created_at'
    );
    return rows;
  };
  const known = await read();
  if (known.some(({ shipped }) => shipped)) return known;
  for (const document of SHIPPED_DELIVERABLES)
    await context.db.query('insert into deliverables (document, shipped) values ($1, true)', [document]);
  return read();
}

export async function addDeliverable(context: Context, input: unknown): Promise<string> {
  const { rows } = await context.db.query<{ id: string }>(
    'insert into deliverables (document) values ($1) returning id',
    [await soundDeliverable(input)]
  );
  return rows[0].id;
}

/** Adds all of a file, or none of it when one is wrong. */
export async function importDeliverables(context: Context, input: unknown): Promise<number> {
  const list = Array.isArray(input) ? input : [input];
  if (list.length === 0 || list.length > 200)
    throw new UserError('The file should hold one deliverable, or a list of up to 200.');
  const sound = await Promise.all(list.map(soundDeliverable));
  for (const document of sound)
    await context.db.query('insert into deliverables (document) values ($1)', [document]);
  return sound.length;
}

export async function changeDeliverable(context: Context, id: string, input: unknown): Promise<void> {
  const { rowCount } = await context.db.query(
    'update deliverables set document = $2 where id = $1 and not shipped',
    [id, await soundDeliverable(input)]
  );
  if (!rowCount)
    throw new UserError('Ready-made deliverables stay as they are: copy it and change the copy.');
}

export async function removeDeliverable(context: Context, id: string): Promise<void> {
  const { rowCount } = await context.db.query('delete from deliverables where id = $1 and not shipped', [id]);
  if (!rowCount) throw new UserError('Ready-made deliverables cannot be removed.');
}
