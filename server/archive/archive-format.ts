/** What is in a job archive: a ZIP with `job.json`, the originals with their recipes beside them, and SHA256SUMS over all of it. */
import { houseRuleSchema, type HouseRule } from '../../core/recipe/house-rules.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { LOOK_SPACES, type LookSpace } from '../../core/steps/colour/looks/look.ts';
import type { LensFacts } from '../../core/optics/rank-profiles.ts';
import type { Confidence } from '../../core/steps/lines/true-up-itself.ts';
import { UUID } from '../database/uuid.ts';
import { validator } from '../documents/validator.ts';
import { CHOICES, type FrameChoiceName } from '../frames/frame-row.ts';
import { type OnAdding, jobSchema, ratiosSchema, ON_ADDING } from '../jobs/jobs.ts';
import type { CameraBody } from '../lenses/profiles-from-calibration.ts';
import type { Origin } from '../lenses/catalogue.ts';
import type { Outside } from '../render/outside.ts';

export const ARCHIVE_FORMAT = 'line-true-job';
export const SUMS = 'SHA256SUMS';
export const CONTENTS = 'job.json';

/** What tells one lens from another in the archive, without the original being read. */
export type ArchivedLensFacts = Required<LensFacts>;

export interface ArchivedFrame {
  /** Path of the original, and of its recipe. */
  file: string;
  recipe: string;
  sha256: string;
  bytes: number;
  name: string;
  room: string;
  choice: FrameChoiceName;
  /** Its place by hand. */
  place: number | null;
  /** What is known of camera and lens; null where the file could not be read. */
  facts: ArchivedLensFacts | null;
  /** The profile that applied by itself, where the recipe leaves that open. */
  auto: string | null;
  /** Whether it was worked on, by hand or by itself: what is done to new frames is not done to it again. */
  worked: boolean;
  lines_said: { ok: boolean; said: string; confidence?: Confidence } | null;
  outside: Outside | null;
  revisions: { letter: string; name: string; recipe: PartialRecipe; for_delivery: boolean }[];
}

export interface ArchiveContents {
  format: typeof ARCHIVE_FORMAT;
  version: 1;
  job: {
    name: string;
    client: string;
    site: string;
    due: string | null;
    true_up: OnAdding;
    ratios: string[];
    house_rules: HouseRule[];
  };
  house_settings: { id: string; name: string; folder: string; steps: object }[];
  looks: { id: string; name: string; space: LookSpace; file: string }[];
  skies: { id: string; name: string; file: string }[];
  lenses: { id: string; origin: Origin; file: string }[];
  bodies: CameraBody[];
  frames: ArchivedFrame[];
}

const text = (maxLength: number) => ({ type: 'string', maxLength }) as const;
const path = { type: 'string', minLength: 1, maxLength: 400 } as const;
const id = { type: 'string', pattern: UUID.source } as const;
const maybe = (type: string) => ({ type: [type, 'null'] }) as const;
const nullOr = (schema: object) => ({ anyOf: [{ type: 'null' }, schema] }) as const;
/** An object with all of these and no others. */
const exactly = (properties: Record<string, object>, optional: readonly string[] = []) => ({
  type: 'object',
  additionalProperties: false,
  required: Object.keys(properties).filter((name) => !optional.includes(name)),
  properties
});
const listOf = (maxItems: number, items: object) => ({ type: 'array', maxItems, items });

const frame = exactly({
  file: path,
  recipe: path,
  sha256: { type: 'string', pattern: '^[0-9a-f]{64}$' },
  bytes: { type: 'integer', minimum: 0 },
  name: { ...text(200), minLength: 1 },
  room: text(60),
  choice: { enum: CHOICES },
  place: maybe('integer'),
  facts: nullOr(
    exactly({
      make: maybe('string'),
      model: maybe('string'),
      lensMaker: maybe('string'),
      lens: maybe('string'),
      focalLength: maybe('number'),
      aperture: maybe('number'),
      sensorHalfDiagonal: maybe('number')
    })
  ),
  auto: maybe('string'),
  worked: { type: 'boolean' },
  lines_said: nullOr(
    exactly({ ok: { type: 'boolean' }, said: text(2000), confidence: { enum: ['sure', 'fair', 'look'] } }, [
      'confidence'
    ])
  ),
  outside: nullOr(
    exactly({
      of: text(200),
      handed: text(20),
      back: text(20),
      was: nullOr(exactly({ width: { type: 'integer' }, height: { type: 'integer' } }))
    })
  ),
  revisions: listOf(
    26,
    exactly({
      letter: { type: 'string', pattern: '^[A-Z]$' },
      name: text(80),
      recipe: { type: 'object' },
      for_delivery: { type: 'boolean' }
    })
  )
});

export const validContents = validator<ArchiveContents>(
  {
    $id: 'job-archive',
    ...exactly({
      format: { const: ARCHIVE_FORMAT },
      version: { const: 1 },
      job: exactly({
        ...jobSchema.properties,
        true_up: { enum: ON_ADDING },
        ratios: ratiosSchema,
        house_rules: listOf(20, houseRuleSchema)
      }),
      house_settings: listOf(
        100,
        exactly({ id, name: text(80), folder: text(80), steps: { type: 'object' } })
      ),
      looks: listOf(500, exactly({ id, name: text(200), space: { enum: LOOK_SPACES }, file: path })),
      skies: listOf(500, exactly({ id, name: text(80), file: path })),
      lenses: listOf(
        500,
        exactly({ id: text(200), origin: { enum: ['shipped', 'imported', 'measured'] }, file: path })
      ),
      bodies: listOf(
        500,
        exactly({
          maker: text(100),
          model: text(100),
          mounts: listOf(50, text(100)),
          sensorHalfDiagonal: { type: 'number', exclusiveMinimum: 0 }
        })
      ),
      frames: listOf(20_000, frame)
    })
  },
  'job archive'
);
