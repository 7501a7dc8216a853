<!-- The Lens step: its four pages side by side with their names. -->
<script lang="ts">
  import DeckPages from '../controls/DeckPages.svelte';
  import type { LensToolState } from './lens-tool.svelte.ts';
  import LensBow from './LensBow.svelte';
  import LensColour from './LensColour.svelte';
  import LensFalloff from './LensFalloff.svelte';
  import LensProfilePage from './LensProfile.svelte';
  import type { DeckProps } from '../parts/step-parts.ts';
  import { type LensPage, lensView } from './lens-view.svelte.ts';

  let { bench, sheet, tool, job, ready }: DeckProps<LensToolState> = $props();
  const mine = $derived(lensView(bench));
  const own = $derived(mine);
  const PAGES: { page: LensPage; label: string }[] = [
    { page: 'profile', label: 'Profile' },
    { page: 'bow', label: 'Bow' },
    { page: 'colour', label: 'Colour edges' },
    { page: 'falloff', label: 'Falloff' }
  ];
  const off = $derived(bench.recipe.lens.enabled ? null : 'The Lens step is switched off.');

  function turnTo(page: LensPage): void {
    own.page = page;
    own.tool = 'none';
    own.said = '';
    tool.drop();
  }
</script>

<DeckPages
  of={{ bench, step: 'lens', groups: [own.page === 'colour' ? 'fringe' : own.page] }}
  label="Lens pages"
  pages={PAGES}
  current={own.page}
  {turnTo}
/>
{#if own.page === 'profile'}
  <LensProfilePage {bench} {job} {ready} {off} />
{:else if own.page === 'bow'}
  <LensBow {bench} {sheet} {tool} {off} />
{:else if own.page === 'colour'}
  <LensColour {bench} {off} />
{:else}
  <LensFalloff {bench} {off} />
{/if}
