import type { Context } from '../context.ts';
import { TRUE_UP_MODES, type TrueUpMode } from '../../core/steps/lines/solve-rotation.ts';
import { RATIO_PATTERN, type RatioName } from '../../core/picture/output/ratios.ts';
import { type HouseRule, houseRuleSchema } from '../../core/recipe/house-rules.ts';
import { validator } from '../documents/validator.ts';

/** What becomes true by itself when a frame is added. */
export const ON_ADDING = ['none', ...TRUE_UP_MODES] as const;
export type OnAdding = 'none' | TrueUpMode;

export interface JobInput {
  name: string;
  client?: string;
  site?: string;
  due?: string | null;
}

const text = { type: 'string', maxLength: 200 };

export const jobSchema = {
  $id: 'job',
  type: 'object',
  additionalProperties: false,
  required: ['name'],
  properties: {
    name: { ...text, minLength: 1, pattern: '\\S' },
    client: text,
    site: text,
    due: { type: ['string', 'null'], format: 'date', pattern: '^(?!0000)' }
  }
};

export const validJob = validator<JobInput>(jobSchema, 'job');

export const ratiosSchema = {
  type: 'array',
  minItems: 1,
  maxItems: 12,
  uniqueItems: true,
  items: { type: 'string', pattern: RATIO_PATTERN }
} as const;

export interface JobChange extends Partial<JobInput> {
  /** Kept, but out of the way. */
  put_away?: boolean;
  true_up?: OnAdding;
  ratios?: RatioName[];
  house_rules?: HouseRule[];
}

export const validJobChange = validator<JobChange>(
  {
    $id: 'job-change',
    type: 'object',
    additionalProperties: false,
    properties: {
      ...jobSchema.properties,
      put_away: { type: 'boolean' },
      true_up: { enum: ON_ADDING },
      house_rules: { type: 'array', maxItems: 20, items: houseRuleSchema },
      ratios: ratiosSchema
    }
  },
  'job'
);

export interface Job {
  id: string;
  name: string;
  client: string;
  site: string;
  due: string | null;
  /** What becomes true by itself when a frame is added. */
  true_up: OnAdding;
  /** Ratios that its pictures are wanted in. */
  ratios: RatioName[];
  /** House settings that are laid over its frames by themselves. */
  house_rules: HouseRule[];
  put_away: boolean;
}

export interface JobSummary extends Job {
  frames: number;
  waiting: number;
  failed: number;
  /** When it was made, for sorting. */
  made: string;
  /** A frame whose picture stands for the job. */
  cover: { id: string; version: number } | null;
}

const COLUMNS = `j.id, j.name, j.client, j.site, to_char(j.due, 'YYYY-MM-DD') as due, j.true_up, j.ratios,
  j.house_rules, j.put_away`;

export async function listJobs(context: Context): Promise<JobSummary[]> {
  const { rows } = await context.db.query<JobSummary>(`
    select ${COLUMNS},
      count(f.id)::int as frames,
      count(f.id) filter (where f.state = 'preparing')::int as waiting,
      count(f.id) filter (where f.state = 'failed')::int as failed,
      to_char(j.created_at, 'YYYY-MM-DD"T"HH24:MI:SS') as made,
      (select jsonb_build_object('id', c.id, 'version', c.version) from frames c
        where c.job_id = j.id and c.state = 'ready' order by c.name limit 1) as cover
    from jobs j left join frames f on f.job_id = j.id
    group by j.id order by j.created_at desc`);
  return rows;
}

export async function jobById(context: Context, id: string): Promise<Job | null> {
  const { rows } = await context.db.query<Job>(`select ${COLUMNS} from jobs j where j.id = $1`, [id]);
  return rows[0] ?? null;
}

export async function createJob(context: Context, input: JobInput): Promise<string> {
  const { rows } = await context.db.query<{ id: string }>(
    'insert into jobs (name, client, site, due) values ($1, $2, $3, $4) returning id',
    [input.name.trim(), input.client ?? '', input.site ?? '', input.due || null]
  );
  return rows[0].id;
}

export async function changeJob(context: Context, id: string, change: JobChange): Promise<void> {
  const { name, client, site, due, true_up, ratios, house_rules, put_away } = change;
  await context.db.query(
    `update jobs set
       name = coalesce($2, name), client = coalesce($3, client), site = coalesce($4, site),
       due = case when $5 then $6::date else due end,
       true_up = coalesce($7, true_up), ratios = coalesce($8, ratios), put_away = coalesce($9, put_away),
       house_rules = coalesce($10::jsonb, house_rules)
     where id = $1`,
    [
      id,
      name?.trim() ?? null,
      client ?? null,
      site ?? null,
      due !== undefined,
      due || null,
      true_up ?? null,
      ratios ?? null,
      put_away ?? null,
      house_rules ? JSON.stringify(house_rules) : null
    ]
  );
  await context.notices.tell({ job: id });
}
