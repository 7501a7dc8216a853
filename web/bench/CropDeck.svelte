<script lang="ts">
  import { RATIOS, type RatioName, ratioValue, turnedRatio } from '$core/crop/ratios.ts';
  import { largestCrop } from '$core/crop/largest-rectangle.ts';
  import type { Bench } from './bench-state.svelte.ts';

  let { bench }: { bench: Bench } = $props();
  const crop = $derived(bench.recipe.crop);
  const offered = RATIOS.filter((ratio) => !['2:3', '3:4', '9:16', '7:5'].includes(ratio));

  /** A new ratio about the same middle, as large as the old crop allows inside the real pixels. */
  function choose(ratio: RatioName): void {
    bench.change('crop', { ratio, rectangle: null, enabled: true });
  }

  function largest(): void {
    const value = ratioValue(crop.ratio, bench.optics.size);
    const found = largestCrop(bench.plan.valid, value);
    bench.change('crop', { rectangle: crop.ratio === 'free' ? found : null, enabled: true });
  }
  const shown = (ratio: RatioName): boolean =>
    crop.ratio === ratio || (!offered.includes(crop.ratio) && turnedRatio(crop.ratio) === ratio);
  const inches = (pixels: number): string => (pixels / 300).toFixed(1);
</script>

<section class="column wide" aria-label="Ratio">
  <h2>Ratio</h2>
  <div class="ratios">
    {#each offered as ratio (ratio)}
      <button class="tool" aria-pressed={crop.enabled && shown(ratio)} onclick={() => choose(ratio)}>
        {shown(ratio) ? crop.ratio : ratio}
      </button>
    {/each}
    <button
      class="tool"
      disabled={turnedRatio(crop.ratio) === crop.ratio}
      title="Turn the ratio by a quarter"
      onclick={() => choose(turnedRatio(crop.ratio))}>Turn</button
    >
  </div>
  <button class="tool main" onclick={largest}>Largest</button>
  {#if bench.plan.cropMoved && crop.rectangle}
    <span class="quiet">The crop was moved to stay on real pixels.</span>
  {/if}
</section>
<section class="column" aria-label="Size">
  <h2>Size</h2>
  <p>{bench.plan.output.width} × {bench.plan.output.height} px</p>
  <p class="quiet">
    {((bench.plan.output.width * bench.plan.output.height) / 1e6).toFixed(1)} MP · prints {inches(
      bench.plan.output.width
    )} × {inches(bench.plan.output.height)} in at 300 ppi
  </p>
</section>

<style>
  .ratios {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
    margin-bottom: 8px;
  }
  .wide {
    flex: 1 1 520px;
  }
</style>
