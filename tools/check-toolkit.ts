/** The interface is the toolkit's: no plain controls, and little style of our own. Ends with 1 and says where. */
import { readFileSync, readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import { ROOT } from '../server/paths.ts';

/** Lines of style that all components may have together. */
export const MOST_STYLE = 450;
const CONTROL = /<(button|input|select|textarea|table|dialog|progress)\b/g;

/** Plain controls in the markup of a component, by their names. */
export const plainControls = (source: string): string[] =>
  [
    ...source
      .replace(/<script[\s\S]*?<\/script>/g, '')
      .replace(/<!--[\s\S]*?-->/g, '')
      .matchAll(CONTROL)
  ].map(([, name]) => name);

export const styleLines = (source: string): number =>
  (source.match(/<style[^>]*>[\s\S]*?<\/style>/g) ?? []).reduce(
    (sum, style) => sum + style.split('\n').length,
    0
  );

if (process.argv[1] === import.meta.filename) {
  const web = join(ROOT, 'web');
  const components = readdirSync(web, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.svelte'))
    .map((name) => ({ name, source: readFileSync(join(web, name), 'utf8') }));
  const faults = components.flatMap(({ name, source }) =>
    plainControls(source).map((control) => `${relative(ROOT, join(web, name))}: a plain <${control}>`)
  );
  const lines = components.reduce((sum, { source }) => sum + styleLines(source), 0);
  if (lines > MOST_STYLE) faults.push(`${lines} lines of style in components: at most ${MOST_STYLE}`);
  for (const fault of faults) process.stdout.write(`${fault}\n`);
  process.stdout.write(`${components.length} components, ${lines} lines of style.\n`);
  process.exitCode = faults.length > 0 ? 1 : 0;
}
