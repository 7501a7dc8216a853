<!-- The Colour step: white balance, from as shot. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import SettingControl from '../SettingControl.svelte';
  import type { DeckProps } from '../step-parts.ts';

  let { bench }: DeckProps = $props();
  const colour = $derived(bench.recipe.colour);
  const off = $derived(colour.enabled ? null : 'The Colour step is switched off.');
  const asShot = $derived(colour.warmth === 0 && colour.tint === 0);
</script>

<section class="column" aria-label="White balance">
  <h2>White balance, from as shot</h2>
  <SettingControl {bench} step="colour" name="warmth" idle={off} />
  <SettingControl {bench} step="colour" name="tint" idle={off} />
</section>
<section class="column" aria-label="Strength of colours">
  <h2>Strength</h2>
  <SettingControl {bench} step="colour" name="saturation" idle={off} />
  <SettingControl {bench} step="colour" name="vibrance" idle={off} />
</section>
<section class="column" aria-label="Neutral">
  <h2>Neutral</h2>
  <div class="mb-1.5 flex gap-1.25">
    <Button
      color="light"
      disabled={off !== null}
      aria-pressed={bench.view.picking}
      title="Press on what should be a grey without colour (N)"
      onclick={() => (bench.view.picking = !bench.view.picking)}>Pick</Button
    >
    <Button
      color="light"
      disabled={off !== null || asShot}
      onclick={() => bench.change('colour', { warmth: 0, tint: 0 })}>As shot</Button
    >
  </div>
  <p class="text-sm leading-[1.35]" role="status">
    {bench.view.picking ? 'Press on a wall, a paper or a stone that should be grey.' : bench.view.colourSaid}
  </p>
</section>
