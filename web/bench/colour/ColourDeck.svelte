<!-- The Colour step: its pages. -->
<script lang="ts">
  import DeckPages from '../controls/DeckPages.svelte';
  import type { DeckProps } from '../parts/step-parts.ts';
  import ColourBalance from './ColourBalance.svelte';
  import ColourCast from './ColourCast.svelte';
  import ColourHues from './ColourHues.svelte';
  import ColourLooks from './ColourLooks.svelte';
  import ColourMono from './ColourMono.svelte';
  import ColourPrimaries from './ColourPrimaries.svelte';
  import ColourZones from './ColourZones.svelte';
  import { type ColourPage, colourView } from './colour-view.svelte.ts';

  let { bench, sheet }: DeckProps = $props();
  const mine = $derived(colourView(bench));
  const PAGES: { page: ColourPage; label: string }[] = [
    { page: 'balance', label: 'Balance' },
    { page: 'hues', label: 'Hues' },
    { page: 'zones', label: 'Zones' },
    { page: 'cast', label: 'Cast' },
    { page: 'primaries', label: 'Primaries' },
    { page: 'mono', label: 'Mono' },
    { page: 'looks', label: 'Looks' }
  ];
  const off = $derived(bench.recipe.colour.enabled ? null : 'The Colour step is switched off.');
</script>

<DeckPages
  of={{
    bench,
    step: 'colour',
    groups: mine.page === 'balance' ? ['balance', 'saturation'] : [mine.page]
  }}
  label="Colour pages"
  pages={PAGES}
  current={mine.page}
  turnTo={(page) => {
    mine.page = page;
    mine.tool = 'none';
    mine.said = '';
  }}
/>
{#if mine.page === 'balance'}
  <ColourBalance {bench} {sheet} {off} />
{:else if mine.page === 'hues'}
  <ColourHues {bench} {sheet} {off} />
{:else if mine.page === 'zones'}
  <ColourZones {bench} {off} />
{:else if mine.page === 'cast'}
  <ColourCast {bench} {sheet} {off} />
{:else if mine.page === 'primaries'}
  <ColourPrimaries {bench} {off} />
{:else if mine.page === 'mono'}
  <ColourMono {bench} {off} />
{:else}
  <ColourLooks {bench} {sheet} {off} />
{/if}
