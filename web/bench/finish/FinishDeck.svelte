<!-- The Finish step: its pages. -->
<script lang="ts">
  import DeckPages from '../controls/DeckPages.svelte';
  import type { DeckProps } from '../parts/step-parts.ts';
  import FinishBorder from './FinishBorder.svelte';
  import FinishEdge from './FinishEdge.svelte';
  import FinishGlow from './FinishGlow.svelte';
  import FinishGrain from './FinishGrain.svelte';
  import FinishNoise from './FinishNoise.svelte';
  import FinishSharpening from './FinishSharpening.svelte';
  import { type FinishPage, finishView } from './finish-view.svelte.ts';

  let { bench, sheet }: DeckProps = $props();
  const mine = $derived(finishView(bench));
  const PAGES: { page: FinishPage; label: string }[] = [
    { page: 'noise', label: 'Noise' },
    { page: 'sharpening', label: 'Sharpening' },
    { page: 'edge', label: 'Edge' },
    { page: 'glow', label: 'Glow' },
    { page: 'grain', label: 'Grain' },
    { page: 'border', label: 'Border' }
  ];
  const off = $derived(bench.recipe.finish.enabled ? null : 'The Finish step is switched off.');
</script>

<DeckPages
  of={{ bench, step: 'finish' }}
  label="Finish pages"
  pages={PAGES}
  current={mine.page}
  turnTo={(page) => {
    mine.page = page;
  }}
/>
{#if mine.page === 'noise'}
  <FinishNoise {bench} {sheet} {off} />
{:else if mine.page === 'sharpening'}
  <FinishSharpening {bench} {sheet} {off} />
{:else if mine.page === 'edge'}
  <FinishEdge {bench} {off} />
{:else if mine.page === 'glow'}
  <FinishGlow {bench} {off} />
{:else if mine.page === 'grain'}
  <FinishGrain {bench} {sheet} {off} />
{:else}
  <FinishBorder {bench} {off} />
{/if}
