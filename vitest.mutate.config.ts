import { defineConfig } from 'vitest/config';

/** The core's tests alone, for runs that change the code on purpose and look which changes they catch. */
export default defineConfig({
  test: {
    include: ['core/**/*.test.ts'],
    // Whole charts take most of a minute, and tell of everything at once.
    exclude: ['core/chart/**'],
    testTimeout: 60000,
    pool: 'threads'
  }
});
