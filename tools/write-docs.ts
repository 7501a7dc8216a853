/**
 * Writes the tables of settings in the docs from their one definition: npm run docs. With --check it only says whether they
 * are as the code is.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deliverableSchema } from '../core/picture/output/deliverable-schema.ts';
import { EVERY_STEP } from '../core/recipe/steps.ts';
import type { Setting, SettingsSchema } from '../core/settings/step.ts';
import { ROOT } from '../server/paths.ts';

const FILE = join(ROOT, 'docs/settings.md');

type Any = Readonly<Record<string, unknown>>;

/** What a setting may be, in a few words. */
function valuesOf(setting: Any): string {
  const { type, enum: list, minimum, maximum, exclusiveMinimum, unit, oneOf, maxLength, maxItems } = setting;
  if (Array.isArray(list)) return list.map((value) => `\`${String(value)}\``).join(', ');
  if (Array.isArray(oneOf))
    return (oneOf as Any[]).map((one) => (one.type === 'null' ? 'null' : valuesOf(one))).join(' or ');
  if (type === 'boolean') return 'true, false';
  if (type === 'string') return maxLength ? `text, up to ${String(maxLength)} characters` : 'text';
  if (type === 'array') return maxItems ? `list of up to ${String(maxItems)}` : 'list';
  if (type === 'object') return 'object';
  const low = minimum ?? (exclusiveMinimum === undefined ? undefined : `above ${String(exclusiveMinimum)}`);
  const range = low === undefined ? 'number' : `${String(low)} to ${String(maximum)}`;
  const nothing = Array.isArray(type) && type.includes('null') ? ', or null' : '';
  return `${range}${unit ? ` ${String(unit)}` : ''}${nothing}`;
}

const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('\n', ' ');

/** Settings of an object or a list, those within others under the path that leads to them. */
function rowsOf(properties: Any, before = ''): [string, Setting][] {
  return Object.entries(properties as Record<string, Any>).flatMap(([name, setting]): [string, Setting][] => {
    // What has no label of its own is told by what it is in.
    if (!('label' in setting)) return [];
    const path = `${before}${name}`;
    const items = setting.items as Any | undefined;
    const kinds = (setting.oneOf ?? items?.oneOf ?? []) as Any[];
    const inside = [setting, items, ...kinds].filter((each) => each?.properties) as { properties: Any }[];
    const nested = inside.flatMap(({ properties }) => {
      // A thing of several kinds is told by its kind.
      const kind = (properties.kind as Any | undefined)?.const;
      const list = setting.type === 'array' ? `[${kind === undefined ? '' : String(kind)}]` : '';
      return rowsOf(properties, `${path}${list}.`);
    });
    return [[path, setting as unknown as Setting], ...nested];
  });
}

function table(schema: SettingsSchema): string {
  const rows = rowsOf(schema.properties).map(([name, setting]) => {
    const preset = setting.default === '' ? '' : `\`${JSON.stringify(setting.default)}\``;
    const said = [setting.label, setting.description].filter(Boolean).join(': ');
    return `| \`${name}\` | ${cell(valuesOf(setting as unknown as Any))} | ${cell(preset)} | ${cell(said)} |`;
  });
  return ['| Setting | Values | Default | What it is |', '| --- | --- | --- | --- |', ...rows].join('\n');
}

const steps = EVERY_STEP.map(
  ({ name, schema }, i) => `## ${i + 1}. ${schema.properties.enabled.label} (\`${name}\`)\n\n${table(schema)}`
);
const text = [
  '# Settings',
  '',
  'Written by `npm run docs` from the definitions in `core/`; every setting may be left out and then has its default.',
  '',
  steps.join('\n\n'),
  '',
  '## Deliverables',
  '',
  table(deliverableSchema),
  ''
].join('\n');

// Compared without the padding that formatting gives tables.
const bare = (of: string): string => of.replace(/-{3,}/g, '---').replace(/ +/g, ' ');
if (process.argv.includes('--check')) {
  let there = '';
  try {
    there = readFileSync(FILE, 'utf8');
  } catch {
    // It is not there: then it is not as the code is.
  }
  if (bare(there) !== bare(text)) {
    process.stderr.write('docs/settings.md is not as the code is: run npm run docs.\n');
    process.exitCode = 1;
  }
} else writeFileSync(FILE, text);
