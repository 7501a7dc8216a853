import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';
import { buildKernels } from './tools/build-kernels.mjs';

await buildKernels();

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  worker: { format: 'es' },
  // Its entries are folders, which Node itself does not import.
  ssr: { noExternal: ['@atlaskit/pragmatic-drag-and-drop'] },
  server: {
    fs: { allow: ['core', 'web'] },
    headers: {
      'Cross-Origin-Opener-Policy': 'same-origin',
      'Cross-Origin-Embedder-Policy': 'require-corp'
    }
  },
  build: { chunkSizeWarningLimit: 1500 }
});
