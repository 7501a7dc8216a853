<!-- The Colour step: its pages. -->
<script lang="ts">
  import DeckPages from '../controls/DeckPages.svelte';
  import type { ColourPage } from '../state/bench-state.svelte.ts';
  import type { DeckProps } from '../parts/step-parts.ts';
  import ColourBalance from './ColourBalance.svelte';
  import ColourCast from './ColourCast.svelte';
  import ColourHues from './ColourHues.svelte';
  import ColourLooks from './ColourLooks.svelte';
  import ColourMono from './ColourMono.svelte';
  import ColourPrimaries from './ColourPrimaries.svelte';
  import ColourZones from './ColourZones.svelte';

  let { bench, sheet }: DeckProps = $props();
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
  label="Colour pages"
  pages={PAGES}
  current={bench.view.colourPage}
  turnTo={(page) => {
    bench.view.colourPage = page;
    bench.view.colourTool = 'none';
    bench.view.colourSaid = '';
  }}
/>
{#if bench.view.colourPage === 'balance'}
  <ColourBalance {bench} {sheet} {off} />
{:else if bench.view.colourPage === 'hues'}
  <ColourHues {bench} {sheet} {off} />
{:else if bench.view.colourPage === 'zones'}
  <ColourZones {bench} {off} />
{:else if bench.view.colourPage === 'cast'}
  <ColourCast {bench} {sheet} {off} />
{:else if bench.view.colourPage === 'primaries'}
  <ColourPrimaries {bench} {off} />
{:else if bench.view.colourPage === 'mono'}
  <ColourMono {bench} {off} />
{:else}
  <ColourLooks {bench} {sheet} {off} />
{/if}
