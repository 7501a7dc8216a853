import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  kit: {
    adapter: adapter({ out: 'build', precompress: false }),
    files: {
      appTemplate: 'web/app.html',
      assets: 'web/static',
      hooks: { server: 'web/hooks.server' },
      lib: 'web/lib',
      routes: 'web/routes'
    },
    alias: { $core: 'core', $server: 'server' },
    csrf: { trustedOrigins: [] },
    csp: {
      directives: {
        'default-src': ['self'],
        'script-src': ['self', 'wasm-unsafe-eval'],
        // Components and plots set styles of single elements.
        'style-src': ['self', 'unsafe-inline'],
        'img-src': ['self', 'data:', 'blob:'],
        'object-src': ['none'],
        'base-uri': ['self'],
        'form-action': ['self'],
        'frame-ancestors': ['none']
      }
    }
  }
};
