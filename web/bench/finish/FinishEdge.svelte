<!-- The edge of the picture darkened or lightened, and its middle. -->
<script lang="ts">
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';

  interface Props {
    bench: Bench;
    off: string | null;
  }
  let { bench, off }: Props = $props();
  const finish = $derived(bench.recipe.finish);
  const idle = $derived(
    off ??
      (finish.edge === 0 && finish.inner === 0 && finish.edgeColour === 0
        ? 'The edge is as it is: set Edge, Inner light or its colour first.'
        : null)
  );
</script>

<section class="column" aria-label="Edge">
  <SettingControl {bench} step="finish" name="edge" idle={off} />
  <SettingControl {bench} step="finish" name="inner" idle={off} />
  <SettingControl {bench} step="finish" name="edgeSpare" label="Spare bright" {idle} />
  <SettingControl {bench} step="finish" name="edgeColour" label="Colour" spoken="Edge colour" idle={off} />
</section>
<section class="column" aria-label="Shape of the edge">
  <SettingControl {bench} step="finish" name="edgeReach" spoken="Reach of the edge" {idle} />
  <SettingControl {bench} step="finish" name="edgeRound" spoken="Roundness of the edge" {idle} />
  <SettingControl {bench} step="finish" name="edgeFeather" spoken="Feather of the edge" {idle} />
</section>
<section class="column" aria-label="Middle of the edge">
  <h2>Middle</h2>
  <SettingControl {bench} step="finish" name="edgeX" label="Across" spoken="Middle across" {idle} />
  <SettingControl {bench} step="finish" name="edgeY" label="Down" spoken="Middle down" {idle} />
  <p class="quiet pt-1.5 text-xs">The middle can be dragged on the picture; all of it follows the crop.</p>
</section>
