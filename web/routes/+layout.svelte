<script lang="ts">
  import '@fontsource/ibm-plex-sans/400.css';
  import '@fontsource/ibm-plex-sans/500.css';
  import '@fontsource/ibm-plex-sans/600.css';
  import '@fontsource/ibm-plex-mono/400.css';
  import '../app.css';
  import { ThemeProvider } from 'flowbite-svelte';
  import Toasts from '../lib/toasts/Toasts.svelte';
  import Hints from '../lib/hints/Hints.svelte';
  import { theme } from '../theme.ts';
  import type { LayoutProps } from './$types';

  let { children }: LayoutProps = $props();
</script>

<ThemeProvider {theme}>{@render children()}<Toasts /><Hints /></ThemeProvider>
