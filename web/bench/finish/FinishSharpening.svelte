<!-- Sharpening: how much of it, where, and how far edges may go. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { halfDiagonal } from '$core/math/frame-geometry.ts';
  import { type AreasSettings, areasAtWork } from '$core/steps/areas/step.ts';
  import { Checkbox } from 'flowbite-svelte';
  import { hint } from '../../lib/hints/hint.ts';
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
  const deconvolves = $derived(bench.recipe.finish.sharpeningKind === 'deconvolving');
  /** What the profile tells of the lens, in place of a radius. */
  const told = $derived.by(() => {
    const { softness } = bench.plan;
    if (!softness || bench.recipe.finish.sharpeningKind === 'contrast') return null;
    const [middle, corners] = [softness.middle, softness.corners].map((blur) =>
      (blur * halfDiagonal(bench.optics.size)).toFixed(2)
    );
    return `As the profile says: ${middle} px in the middle, ${corners} px in the corners.`;
  });
  /** What is shown is where all of the picture is sharpened. */
  const noWhole = $derived(
    bench.recipe.finish.sharpening > 0 ? null : 'Only areas are sharpened: their masks show where.'
  );
  onDestroy(() => (bench.view.sharpened = false));
  /** Areas sharpen by what is set here, whether or not all of the picture is. */
  const inArea = $derived(
    areasAtWork(bench.recipe.areas as unknown as AreasSettings).some(
      ({ area }) => !area.revision && area.settings.finish.sharpening > 0
    )
  );
  const sharpens = $derived(bench.recipe.finish.sharpening > 0 || inArea);
  const idle = $derived(
    off ?? (sharpens ? null : 'Nothing is sharpened: set Sharpening first, here or in an area.')
  );
</script>

<section class="column" aria-label="Sharpening">
  <SettingControl {bench} step="finish" name="sharpening" idle={off} />
  <SettingControl {bench} step="finish" name="sharpeningKind" {idle} />
  <SettingControl {bench} step="finish" name="radius" idle={idle ?? (deconvolves ? told : null)} />
  {#if told && !idle}
    <p class="quiet text-sm" data-testid="told-blur">{told}</p>
  {/if}
  <JudgeAtFull {sheet} what="Sharpening" />
</section>
<section class="column" aria-label="What is sharpened">
  <SettingControl {bench} step="finish" name="detail" {idle} />
  <SettingControl {bench} step="finish" name="edges" {idle} />
  <SettingControl {bench} step="finish" name="halo" {idle} />
  <div class="pt-1.5">
    <Checkbox
      bind:checked={bench.view.sharpened}
      disabled={(idle ?? noWhole) !== null}
      {...hint(idle ?? noWhole ?? 'White where it is sharpened wholly, black where not at all (E)')}
      >Show where it acts</Checkbox
    >
  </div>
</section>
