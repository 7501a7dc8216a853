/** bin/test: runs every check, then says how many passed and failed, each test and each gate counting as one. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from '../server/paths.ts';

const bin = (name: string): string => join(ROOT, 'node_modules/.bin', name);

let passed = 0;
let failed = 0;

function run(name: string, command: string, args: string[]): boolean {
  process.stdout.write(`\n── ${name}\n`);
  const { status } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit' });
  return status === 0;
}

function gate(name: string, command: string, args: string[]): void {
  if (run(name, command, args)) passed++;
  else failed++;
}

gate('routes and types are generated', bin('svelte-kit'), ['sync']);
gate('types', bin('svelte-check'), [
  '--tsconfig',
  './tsconfig.json',
  '--fail-on-warnings',
  '--output',
  'human'
]);
gate('lint', bin('eslint'), ['.', '--max-warnings', '0']);
gate('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
gate('layers', process.execPath, ['--import', 'tsx', 'tools/check-layers.ts']);

const results = join(mkdtempSync(join(tmpdir(), 'line-true-results-')), 'tests.json');
const ok = run('tests', bin('vitest'), [
  'run',
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=${results}`
]);
try {
  const found = JSON.parse(readFileSync(results, 'utf8')) as {
    numPassedTests: number;
    numFailedTests: number;
  };
  passed += found.numPassedTests;
  failed += found.numFailedTests;
  // A file that could not be loaded, or a set-up that failed, fails the run without failing a test.
  if (!ok && found.numFailedTests === 0) failed++;
} catch {
  failed++;
}

process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exitCode = failed === 0 ? 0 : 1;
