import { defineConfig } from 'vitest/config';

/** Files that share a database or start the app take turns; the core's tests need neither. */
export default defineConfig({
  resolve: {
    alias: {
      $core: new URL('./core', import.meta.url).pathname,
      $server: new URL('./server', import.meta.url).pathname
    }
  },
  test: {
    include: ['{core,scenes,server,web,tools}/**/*.test.ts'],
    testTimeout: 120000,
    hookTimeout: 300000,
    globalSetup: ['server/tests/setup.ts'],
    fileParallelism: false,
    pool: 'forks'
  }
});
