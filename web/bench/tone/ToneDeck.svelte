<!-- The Tone step: its pages. -->
<script lang="ts">
  import DeckPages from '../controls/DeckPages.svelte';
  import type { TonePage } from '../state/bench-state.svelte.ts';
  import type { DeckProps } from '../parts/step-parts.ts';
  import ToneBands from './ToneBands.svelte';
  import ToneCurve from './ToneCurve.svelte';
  import ToneLevels from './ToneLevels.svelte';
  import ToneLight from './ToneLight.svelte';
  import ToneLocal from './ToneLocal.svelte';
  import { suggestFor } from './suggest.ts';

  let { bench, sheet }: DeckProps = $props();
  const PAGES: { page: TonePage; label: string }[] = [
    { page: 'light', label: 'Light' },
    { page: 'local', label: 'Local' },
    { page: 'bands', label: 'Bands' },
    { page: 'levels', label: 'Levels' },
    { page: 'curve', label: 'Curve' }
  ];
  const off = $derived(bench.recipe.tone.enabled ? null : 'The Tone step is switched off.');
  const suggest = $derived(suggestFor(bench, sheet));
</script>

<DeckPages
  label="Tone pages"
  pages={PAGES}
  current={bench.view.tonePage}
  turnTo={(page) => {
    bench.view.tonePage = page;
    bench.view.tonePicking = false;
  }}
/>
{#if bench.view.tonePage === 'light'}
  <ToneLight {bench} {off} {suggest} />
{:else if bench.view.tonePage === 'local'}
  <ToneLocal {bench} {off} {suggest} />
{:else if bench.view.tonePage === 'bands'}
  <ToneBands {bench} {sheet} {off} />
{:else if bench.view.tonePage === 'levels'}
  <ToneLevels {bench} {off} />
{:else}
  <ToneCurve {bench} {off} />
{/if}
