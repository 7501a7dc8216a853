<!-- The Lens step: its four pages side by side with their names. -->
<script lang="ts">
  import DeckPages from './DeckPages.svelte';
  import LensBow from './LensBow.svelte';
  import LensColour from './LensColour.svelte';
  import LensFalloff from './LensFalloff.svelte';
  import LensProfilePage from './LensProfile.svelte';
  import type { DeckProps } from './deck.ts';
  import type { LensPage } from './bench-state.svelte.ts';

  let { bench, sheet, job, ready }: DeckProps = $props();
  const PAGES: { page: LensPage; label: string }[] = [
    { page: 'profile', label: 'Profile' },
    { page: 'bow', label: 'Bow' },
    { page: 'colour', label: 'Colour edges' },
    { page: 'falloff', label: 'Falloff' }
  ];
  const off = $derived(bench.recipe.lens.enabled ? null : 'The Lens step is switched off.');

  function turnTo(page: LensPage): void {
    bench.view.lensPage = page;
    bench.view.lensTool = 'none';
    bench.view.lensSaid = '';
    sheet.dropCorners();
  }
</script>

<DeckPages label="Lens pages" pages={PAGES} current={bench.view.lensPage} {turnTo} />
{#if bench.view.lensPage === 'profile'}
  <LensProfilePage {bench} {job} {ready} {off} />
{:else if bench.view.lensPage === 'bow'}
  <LensBow {bench} {sheet} {off} />
{:else if bench.view.lensPage === 'colour'}
  <LensColour {bench} {off} />
{:else}
  <LensFalloff {bench} {off} />
{/if}
