<!-- Local contrast of three sizes, and haze. -->
<script lang="ts">
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { Suggest } from './suggest.ts';

  interface Props {
    bench: Bench;
    off: string | null;
    suggest: Suggest;
  }
  let { bench, off, suggest }: Props = $props();
  const noHaze = $derived(bench.recipe.tone.haze === 0 ? 'No haze is taken away: set Haze first.' : null);
</script>

<section class="column" aria-label="Local contrast">
  <h2>Local contrast</h2>
  <SettingControl {bench} step="tone" name="fine" spoken="Fine local contrast" idle={off} />
  <SettingControl
    {bench}
    step="tone"
    name="middle"
    spoken="Middle local contrast"
    idle={off}
    suggest={() => suggest(['middle'])}
  />
  <SettingControl {bench} step="tone" name="broad" spoken="Broad local contrast" idle={off} />
</section>
<section class="column" aria-label="Haze">
  <h2>Haze</h2>
  <SettingControl {bench} step="tone" name="haze" idle={off} suggest={() => suggest(['haze'])} />
  <SettingControl {bench} step="tone" name="hazeDepth" spoken="Where haze begins" idle={off ?? noHaze} />
  <p class="quiet pt-1.5 text-xs">What is far is cleared most; the colour of the air stays.</p>
</section>
