/**
 * What a working step is: its settings with their one definition, what of it comes by itself, and what it gives to other
 * frames. The list of steps (`core/recipe/steps.ts`) serves recipes, course, carrying over, reports and docs.
 */
import equal from 'fast-deep-equal';
import type { FromSchema } from 'json-schema-to-ts';
import { type Definition, completed } from './nested.ts';

/** Keywords of ours beside those of JSON Schema. */
export const SETTING_KEYWORDS = ['label', 'unit', 'step', 'fine'] as const;

/** What every setting says of itself; ranges and kinds are those of JSON Schema. */
export interface Setting {
  readonly label: string;
  readonly default: unknown;
  readonly unit?: string;
  /** Smallest usual change. */
  readonly step?: number;
  /** The range that is of use for most pictures, where it is smaller than what is possible: that of the slider. */
  readonly fine?: readonly [number, number];
  readonly description?: string;
}

/** A setting of a step says what it does in a sentence: its hint on the bench, and its line in the docs. */
export interface StepSetting extends Setting {
  readonly description: string;
}

export interface SettingsSchema {
  readonly type: 'object';
  readonly additionalProperties: false;
  readonly properties: Readonly<Record<string, Setting>>;
}

export interface StepSchema extends SettingsSchema {
  /** Its label is the step's. */
  readonly properties: Readonly<Record<string, StepSetting>> & {
    readonly enabled: StepSetting & { readonly type: 'boolean'; readonly default: true };
  };
}

/** The settings that a schema defines, all present. */
export type Settings<Schema extends SettingsSchema> = Required<FromSchema<Schema>>;

/** What is known of a frame beside its recipe, for the state of its steps. */
export interface StepFacts {
  /** A lens profile was applied by itself. */
  profileFound: boolean;
}

/** Settings of a step that make sense by themselves. */
export interface SettingsGroup {
  name: string;
  label: string;
  settings: readonly string[];
}

export interface CarryOver {
  /**
   * Settings that belong to the picture they were made on and stay behind. "list.name": that of each thing in a list; the
   * thing keeps what the other frame has there under the same id, or has its default.
   */
  stays: readonly string[];
  /** Only frames of the same shape can be meant: it is the same view. */
  sameShape: boolean;
  /** Settings of other steps that go along, where they are not at their defaults. */
  along: Readonly<Record<string, readonly string[]>>;
  /** What of the step can be carried over singly; empty: it goes as a whole. */
  groups: readonly SettingsGroup[];
}

/** A step, whichever it is. */
export interface AnyStep {
  readonly name: string;
  readonly schema: StepSchema;
  /** Whether the settings are as the app set them by itself. */
  itself(settings: never, facts: StepFacts): boolean;
  readonly carries: CarryOver;
}

/** A step whose settings are known to the compiler. */
export interface Step<Name extends string, Schema extends StepSchema> {
  readonly name: Name;
  readonly schema: Schema;
  itself(settings: Settings<Schema>, facts: StepFacts): boolean;
  readonly carries: CarryOver;
}

/** Every setting of a schema at its default, those within others too. */
export const defaultsOf = (schema: SettingsSchema): Record<string, unknown> =>
  completed(schema as Definition, {}) as Record<string, unknown>;

/** Whether a setting is not at its default. */
export const isTouched = ({ properties }: SettingsSchema, settings: object, name: string): boolean =>
  !equal(
    (settings as Readonly<Record<string, unknown>>)[name],
    completed(properties[name] as Definition, properties[name].default)
  );

/** Names of the settings that are not at their defaults. */
export function touchedSettings(
  schema: SettingsSchema,
  settings: object,
  except: readonly string[] = []
): string[] {
  return Object.keys(schema.properties).filter(
    (name) => !except.includes(name) && isTouched(schema, settings, name)
  );
}
