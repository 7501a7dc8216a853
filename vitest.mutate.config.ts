import { defineConfig } from 'vitest/config';

/** The core's tests alone, for runs that change the code on purpose and look which changes they catch. */
export default defineConfig({
  test: { include: ['core/**/*.test.ts'], testTimeout: 60000, pool: 'threads' }
});
