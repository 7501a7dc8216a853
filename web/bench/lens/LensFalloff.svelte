<!-- Light in the corners: as much of the profile's falloff as wanted, and more or less by hand. -->
<script lang="ts">
  import SettingControl from '../controls/SettingControl.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';

  let { bench, off }: { bench: Bench; off: string | null } = $props();
  const lens = $derived(bench.recipe.lens);
  const noShading = $derived(
    off ??
      (bench.plan.falloff?.shading
        ? null
        : 'No profile with falloff figures is applied. Set the corners by hand.')
  );
</script>

<section class="column" aria-label="Falloff of the profile">
  <h2>From the profile</h2>
  <SettingControl {bench} step="lens" name="falloff" idle={noShading} />
  <p class="quiet text-sm leading-[1.35]">
    {noShading ?? '100 % takes all of the lens’s falloff away; less keeps some of it.'}
  </p>
</section>
<section class="column" aria-label="Falloff by hand">
  <h2>By hand</h2>
  <SettingControl {bench} step="lens" name="corner" idle={off} />
  <SettingControl
    {bench}
    step="lens"
    name="midpoint"
    idle={off ?? (lens.corner === 0 ? 'The midpoint belongs to Corners: set those first.' : null)}
  />
  <p class="quiet text-sm leading-[1.35]">A higher midpoint keeps the change nearer to the corners.</p>
</section>
