<!-- The Lens step: its four pages side by side with their names. -->
<script lang="ts">
  import type { Job } from '$server/jobs/jobs.ts';
  import LensBow from './LensBow.svelte';
  import LensColour from './LensColour.svelte';
  import LensFalloff from './LensFalloff.svelte';
  import LensProfilePage from './LensProfile.svelte';
  import type Sheet from './Sheet.svelte';
  import type { Bench, LensPage } from './bench-state.svelte.ts';

  export interface OtherFrame {
    id: string;
    name: string;
    lens: string | null;
    focalLength: number | null;
  }
  interface Props {
    bench: Bench;
    sheet: Sheet;
    job: Job;
    ready: OtherFrame[];
  }
  let { bench, sheet, job, ready }: Props = $props();
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
    sheet.dropCurve();
  }
</script>

<div class="pages" role="tablist" aria-label="Lens pages" aria-orientation="vertical">
  {#each PAGES as { page, label } (page)}
    <button role="tab" aria-selected={bench.view.lensPage === page} onclick={() => turnTo(page)}
      >{label}</button
    >
  {/each}
</div>
{#if bench.view.lensPage === 'profile'}
  <LensProfilePage {bench} {job} {ready} {off} />
{:else if bench.view.lensPage === 'bow'}
  <LensBow {bench} {sheet} {off} />
{:else if bench.view.lensPage === 'colour'}
  <LensColour {bench} {off} />
{:else}
  <LensFalloff {bench} {off} />
{/if}

<style>
  .pages {
    display: flex;
    flex-direction: column;
    flex: 0 0 116px;
    padding: 8px 0;
    border-right: 1px solid var(--line);
  }
  .pages button {
    padding: 6px 10px;
    text-align: left;
    border-left: 3px solid transparent;
  }
  .pages button[aria-selected='true'] {
    border-left-color: var(--accent);
    font-weight: 600;
    background: var(--panel);
  }
</style>
