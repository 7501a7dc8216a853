<!-- Light in the corners: as much of the profile's falloff as wanted, and more or less by hand. -->
<script lang="ts">
  import { lensSchema } from '$core/lens/step.ts';
  import NumberControl from '../NumberControl.svelte';
  import type { Bench } from '../bench-state.svelte.ts';

  let { bench, off }: { bench: Bench; off: string | null } = $props();
  const settings = lensSchema.properties;
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
  <NumberControl
    setting={settings.falloff}
    value={lens.falloff}
    idle={noShading}
    change={(falloff, moving) => bench.change('lens', { falloff }, moving)}
  />
  <p class="quiet text-sm leading-[1.35]">
    {noShading ?? '100 % takes all of the lens’s falloff away; less keeps some of it.'}
  </p>
</section>
<section class="column" aria-label="Falloff by hand">
  <h2>By hand</h2>
  <NumberControl
    setting={settings.corner}
    value={lens.corner}
    idle={off}
    change={(corner, moving) => bench.change('lens', { corner }, moving)}
  />
  <NumberControl
    setting={settings.midpoint}
    value={lens.midpoint}
    idle={off ?? (lens.corner === 0 ? 'The midpoint belongs to Corners: set those first.' : null)}
    change={(midpoint, moving) => bench.change('lens', { midpoint }, moving)}
  />
  <p class="quiet text-sm leading-[1.35]">A higher midpoint keeps the change nearer to the corners.</p>
</section>
