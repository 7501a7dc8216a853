<!-- The Lens step: its four pages side by side with their names. -->
<script lang="ts">
  import DeckPages from '../controls/DeckPages.svelte';
  import type { LensToolState } from './lens-tool.svelte.ts';
  import LensBow from './LensBow.svelte';
  import LensColour from './LensColour.svelte';
  import LensFalloff from './LensFalloff.svelte';
  import LensProfilePage from './LensProfile.svelte';
  import type { DeckProps } from '../parts/step-parts.ts';
  import type { LensPage } from '../state/bench-state.svelte.ts';

  let { bench, sheet, tool, job, ready }: DeckProps<LensToolState> = $props();
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
    tool.drop();
  }
</script>

<DeckPages label="Lens pages" pages={PAGES} current={bench.view.lensPage} {turnTo} />
{#if bench.view.lensPage === 'profile'}
  <LensProfilePage {bench} {job} {ready} {off} />
{:else if bench.view.lensPage === 'bow'}
  <LensBow {bench} {sheet} {tool} {off} />
{:else if bench.view.lensPage === 'colour'}
  <LensColour {bench} {off} />
{:else}
  <LensFalloff {bench} {off} />
{/if}
