<!-- The Tone step: its pages. -->
<script lang="ts">
  import DeckPages from '../controls/DeckPages.svelte';
  import type { DeckProps } from '../parts/step-parts.ts';
  import ToneBands from './ToneBands.svelte';
  import ToneCurve from './ToneCurve.svelte';
  import ToneLevels from './ToneLevels.svelte';
  import ToneLight from './ToneLight.svelte';
  import ToneLocal from './ToneLocal.svelte';
  import { suggestFor } from './suggest.ts';
  import { type TonePage, toneView } from './tone-view.svelte.ts';

  let { bench, sheet }: DeckProps = $props();
  const mine = $derived(toneView(bench));
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
  of={{ bench, step: 'tone' }}
  label="Tone pages"
  pages={PAGES}
  current={mine.page}
  turnTo={(page) => {
    mine.page = page;
    mine.picking = false;
  }}
/>
{#if mine.page === 'light'}
  <ToneLight {bench} {off} {suggest} />
{:else if mine.page === 'local'}
  <ToneLocal {bench} {off} {suggest} />
{:else if mine.page === 'bands'}
  <ToneBands {bench} {sheet} {off} />
{:else if mine.page === 'levels'}
  <ToneLevels {bench} {off} />
{:else}
  <ToneCurve {bench} {off} />
{/if}
