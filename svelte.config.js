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
    csrf: { trustedOrigins: [] }
  }
};
