import { defineConfig } from 'vitest/config';
import { buildKernels } from './tools/build-kernels.mjs';

await buildKernels();

const alias = {
  $core: new URL('./core', import.meta.url).pathname,
  $server: new URL('./server', import.meta.url).pathname
};
// On a busy machine an answer takes seconds; what is polled for is waited for as long as what a page waits for.
const slow = { testTimeout: 300000, hookTimeout: 300000, expect: { poll: { timeout: 30000 } } };

/**
 * Three projects: the core's tests need nothing and run side by side; those of the server share a database cluster and
 * photographs of the demo camera; those of the web start the app and a browser as well.
 */
export default defineConfig({
  resolve: { alias },
  test: {
    maxWorkers: 2,
    projects: [
      {
        extends: true,
        test: {
          ...slow,
          name: 'core',
          include: ['{core,scenes,tools}/**/*.test.ts', 'web/{bench,preview,jobs}/**/*.test.ts']
        }
      },
      {
        extends: true,
        test: {
          ...slow,
          name: 'server',
          include: ['server/**/*.test.ts'],
          globalSetup: ['server/tests/setup.ts'],
          pool: 'forks'
        }
      },
      {
        extends: true,
        test: {
          ...slow,
          name: 'web',
          include: ['web/tests/*.test.ts', 'web/tests/edits/*.test.ts'],
          globalSetup: ['server/tests/setup.ts', 'web/tests/setup.ts'],
          pool: 'forks'
        }
      }
    ]
  }
});
