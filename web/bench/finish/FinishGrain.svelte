<!-- Grain. -->
<script lang="ts">
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import JudgeAtFull from './JudgeAtFull.svelte';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
  }
  let { bench, sheet, off }: Props = $props();
  const idle = $derived(
    off ?? (bench.recipe.finish.grain === 0 ? 'There is no grain: set Grain first.' : null)
  );
</script>

<section class="column" aria-label="Grain">
  <SettingControl {bench} step="finish" name="grain" idle={off} />
  <SettingControl {bench} step="finish" name="grainSize" {idle} />
  <SettingControl {bench} step="finish" name="grainRoughness" spoken="Roughness of grain" {idle} />
</section>
<section class="column" aria-label="How it looks">
  <JudgeAtFull {sheet} what="Grain" />
  <p class="quiet pt-1.5 text-xs">
    It lies on the frame: a smaller file shows what is left of it, as if the large one had been reduced.
  </p>
</section>
