<!-- Hues of an area, one by one. -->
<script lang="ts">
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import HueStrip from '../colour/HueStrip.svelte';
  import { chosenArea, setInArea } from './edit-areas.ts';
  import NoArea from './NoArea.svelte';

  let { bench, sheet, off }: { bench: Bench; sheet: SheetState; off: string | null } = $props();
  const area = $derived(chosenArea(bench)?.area ?? null);
  let node = $state<number | null>(null);
</script>

{#if area}
  <HueStrip
    {bench}
    {sheet}
    {off}
    hues={area.settings.colour.hues}
    put={(hues, moving) => setInArea(bench, 'colour', { hues: hues.map((each) => ({ ...each })) }, moving)}
    bind:node
  />
{:else}
  <NoArea />
{/if}
