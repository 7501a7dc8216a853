/** npm run mutate core/render [more folders]: changes the code of folders on purpose, and counts what the tests catch. */
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '../server/paths.ts';

const folders = process.argv.slice(2);
if (folders.length === 0 || folders.some((folder) => !existsSync(join(ROOT, folder)))) {
  process.stderr.write('Say which folders of core: npm run mutate core/render\n');
  process.exit(2);
}
const wanted = [...folders.map((folder) => `${folder}/**/*.ts`), '!**/*.test.ts', '!**/*.d.ts'];
const { status } = spawnSync(
  join(ROOT, 'node_modules/.bin/stryker'),
  ['run', 'stryker.config.json', '--mutate', wanted.join(',')],
  { cwd: ROOT, stdio: 'inherit', env: { ...process.env, MUTATED: folders.join(',') } }
);
process.exitCode = status ?? 1;
