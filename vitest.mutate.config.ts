import { defineConfig } from 'vitest/config';
import { buildKernels } from './tools/build-kernels.mjs';

await buildKernels();
const folders = (process.env.MUTATED ?? 'core').split(',');

/** The core's tests alone, for runs that change the code on purpose and look which changes they catch. */
export default defineConfig({
  test: {
    // Those of the folder itself, and those that look at pictures as a whole: others would be run by every change, and catch
    // what these do.
    include: [...folders, 'core/render'].map((folder) => `${folder}/**/*.test.ts`),
    // Whole charts and traced rooms take most of a minute, and tell of everything at once.
    exclude: ['core/measure/chart/**', 'core/steps/colour/light-of-scenes.test.ts'],
    setupFiles: ['tools/hurried-properties.ts'],
    testTimeout: 180000,
    pool: 'threads'
  }
});
