<!-- Glow: how much of it, how far, and what it comes from. -->
<script lang="ts">
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import { areasOf } from '../areas/edit-areas.ts';

  interface Props {
    bench: Bench;
    off: string | null;
  }
  let { bench, off }: Props = $props();
  const inAreas = $derived(areasOf(bench).list.some(({ settings }) => settings.finish.glow > 0));
  const idle = $derived(
    bench.recipe.finish.glow === 0 && !inAreas ? 'Nothing glows: set Glow first, here or in an area.' : off
  );
</script>

<section class="column" aria-label="Glow">
  <SettingControl {bench} step="finish" name="glow" idle={off} />
  <SettingControl {bench} step="finish" name="glowReach" label="Reach" spoken="Reach of glow" {idle} />
</section>
<section class="column" aria-label="What glows">
  <SettingControl {bench} step="finish" name="glowFrom" label="From" spoken="Glows from" {idle} />
  <p class="quiet pt-1.5 text-xs">
    Lamps and windows spread their own light; what is darker, and what glows itself, stays as it is. Reach and
    From hold for areas too.
  </p>
</section>
