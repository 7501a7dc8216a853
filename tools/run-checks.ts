/**
 * bin/test: runs every check, then says how many passed and failed, each test and each gate counting as one. Gates run
 * beside the tests that need but one core; each says how long it took.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from '../server/paths.ts';

const bin = (name: string): string => join(ROOT, 'node_modules/.bin', name);

let passed = 0;
let failed = 0;

interface Ran {
  ok: boolean;
  said: string;
  seconds: number;
}

/** Runs a command; with `aloud` what it says comes at once, else it is kept. */
function run(command: string, args: readonly string[], aloud = false): Promise<Ran> {
  const started = performance.now();
  const child = spawn(command, args, {
    cwd: ROOT,
    stdio: ['ignore', aloud ? 'inherit' : 'pipe', aloud ? 'inherit' : 'pipe']
  });
  let said = '';
  child.stdout?.on('data', (text: Buffer) => (said += text.toString()));
  child.stderr?.on('data', (text: Buffer) => (said += text.toString()));
  return new Promise((resolve) =>
    child.once('close', (code) =>
      resolve({ ok: code === 0, said, seconds: (performance.now() - started) / 1000 })
    )
  );
}

async function gate(name: string, command: string, args: readonly string[]): Promise<void> {
  const { ok, said, seconds } = await run(command, args);
  process.stdout.write(
    `── ${name}: ${ok ? 'passed' : 'FAILED'} in ${seconds.toFixed(0)} s\n${ok ? '' : said}`
  );
  if (ok) passed++;
  else failed++;
}

async function tests(): Promise<void> {
  const results = join(mkdtempSync(join(tmpdir(), 'line-true-results-')), 'tests.json');
  const args = ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${results}`];
  const { ok, seconds } = await run(bin('vitest'), args, true);
  process.stdout.write(`── tests: ${seconds.toFixed(0)} s\n`);
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
}

const tsx = (script: string, ...more: string[]): string[] => [
  '--no-warnings',
  '--import',
  'tsx',
  script,
  ...more
];
const started = performance.now();
await gate('kernels and programs are built', process.execPath, ['tools/build-programs.mjs']);
await gate('routes and types are generated', bin('svelte-kit'), ['sync']);
// Two at a time, as the cores are; the tests have both to themselves.
await Promise.all([
  gate('types', bin('svelte-check'), [
    '--tsconfig',
    './tsconfig.json',
    '--fail-on-warnings',
    '--output',
    'human'
  ]),
  (async () => {
    await gate('layers', process.execPath, tsx('tools/check-layers.ts'));
    await gate('toolkit', process.execPath, tsx('tools/check-toolkit.ts'));
    await gate('docs are as the code is', process.execPath, tsx('tools/write-docs.ts', '--check'));
    await gate('format', bin('prettier'), ['--check', '--log-level', 'warn', '--cache', '.']);
    await gate('lint', bin('eslint'), ['.', '--max-warnings', '0']);
  })()
]);
await tests();
const minutes = (performance.now() - started) / 60_000;
process.stdout.write(`── everything: ${minutes.toFixed(1)} min\n\n${passed} passed, ${failed} failed\n`);
process.exitCode = failed === 0 ? 0 : 1;
