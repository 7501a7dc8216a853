<!-- The Crop step: the job's ratios side by side, how the crop is guided, and its size. -->
<script lang="ts">
  import { Button, Checkbox, Input, Select } from 'flowbite-svelte';
  import { withoutOwn } from '$core/steps/crop/compose.ts';
  import { counts } from '$core/steps/lines/mark.ts';
  import { largestCrop } from '$core/steps/crop/largest-rectangle.ts';
  import { RATIOS, type RatioName, ratioValue, readRatio, turnedRatio } from '$core/picture/output/ratios.ts';
  import { GUIDES, type Guide } from '$core/steps/crop/snap-crop.ts';
  import { deliverableSchema } from '$core/picture/output/deliverable-schema.ts';
  import { call } from '$lib/call.ts';
  import RatioPictures from './RatioPictures.svelte';
  import type { DeckProps } from '../parts/step-parts.ts';
  import { UNSHIFTED, isTurnable, placeCrop, printSize } from './crop-view.ts';
  import { cropView } from './crop-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  let { bench, sheet, job }: DeckProps = $props();
  const mine = $derived(cropView(bench));
  const crop = $derived(bench.recipe.crop);
  let ratios = $derived(job.ratios);
  let typed = $state('');
  let error = $state('');
  const offered = $derived(RATIOS.filter((ratio) => !ratios.includes(ratio)));
  const GUIDE_WORDS: Record<Guide, string> = {
    none: 'no guide',
    halves: 'halves',
    thirds: 'thirds',
    golden: 'golden section',
    diagonals: 'diagonals',
    grid: 'ruler grid',
    safe: 'safe area'
  };
  const own = $derived(crop.ratio in crop.own);

  async function keepRatios(next: RatioName[]): Promise<void> {
    try {
      await call(`/api/jobs/${job.id}`, { method: 'PATCH', body: { ratios: next } });
      ratios = next;
      job.ratios = next;
      error = '';
    } catch (reason) {
      error = (reason as Error).message;
    }
  }
  const add = (ratio: RatioName): Promise<void> => {
    choose(ratio);
    return keepRatios([...ratios, ratio]);
  };
  function addTyped(): void {
    if (!typed.trim()) return;
    const ratio = readRatio(typed);
    if (!ratio) {
      error = 'Write a ratio as 7:5, or a size as 1200x630.';
      return;
    }
    typed = '';
    if (ratios.includes(ratio)) choose(ratio);
    else void add(ratio);
  }
  /** The job's ratios stay as they are. */
  function choose(ratio: RatioName): void {
    bench.change('crop', { ratio, enabled: true });
  }
  function largest(): void {
    const value = ratioValue(crop.ratio, bench.optics.size);
    const { x, y } = bench.plan.crop;
    const found = largestCrop(bench.plan.valid, value, [x, y]);
    if (!found) return;
    if (mine.alone) placeCrop(bench, found);
    else
      bench.changeSteps({
        crop: {
          rectangle: crop.ratio === 'free' ? found : null,
          middle: crop.rectangle ? [crop.rectangle.x, crop.rectangle.y] : crop.middle,
          own: withoutOwn(crop),
          enabled: true
        },
        lines: UNSHIFTED
      });
  }
  function turn(): void {
    const turned = turnedRatio(crop.ratio);
    if (ratios.includes(turned)) choose(turned);
    else void add(turned);
  }
  function follow(): void {
    bench.change('crop', { own: withoutOwn(crop) });
  }
  /** Why there is nothing for the crop to keep. */
  const keepsNothing = $derived(
    crop.rectangle || own
      ? 'This crop was placed by hand. Press Largest to let it follow the marks.'
      : bench.recipe.lines.enabled && bench.recipe.lines.marks.some(counts)
        ? null
        : 'No line is marked in step 2.'
  );
  const printed = $derived(printSize(bench.plan.output, mine.ppi));
  const PPI = deliverableSchema.properties.ppi;
  function takePpi(field: HTMLInputElement): void {
    const ppi = Math.round(Number(field.value));
    if (ppi >= PPI.minimum && ppi <= PPI.maximum) mine.ppi = ppi;
    field.value = String(mine.ppi);
  }
</script>

<section class="column py-1.5 px-2 overflow-x-auto" style:flex="1 1 560px" aria-label="Ratios of this job">
  <RatioPictures
    {bench}
    {sheet}
    {ratios}
    {choose}
    drop={ratios.length > 1 ? (ratio) => keepRatios(ratios.filter((other) => other !== ratio)) : null}
  />
</section>
<section class="column" style:flex="0 0 300px" aria-label="Crop">
  <div class="flex items-center gap-1.5 mb-1.75">
    <Select
      {...hint('One more ratio for all frames of this job')}
      placeholder=""
      aria-label="Add a ratio"
      value=""
      onchange={(e) => {
        void add(e.currentTarget.value);
        e.currentTarget.value = '';
      }}
    >
      <option value="" disabled>add a ratio</option>
      {#each offered as ratio (ratio)}<option>{ratio}</option>{/each}
    </Select>
    <Input
      {...hint('Width to height, or a size in pixels')}
      class="w-26!"
      aria-label="Ratio or size"
      placeholder="7:5, 1200x630"
      bind:value={typed}
      onchange={addTyped}
    />
    <Button
      color="light"
      disabled={!isTurnable(crop.ratio)}
      {...hint('Turn the ratio by a quarter')}
      onclick={turn}>Turn</Button
    >
  </div>
  <div class="flex items-center gap-1.5 mb-1.75">
    <Button {...hint('The largest crop of real pixels in this ratio')} onclick={largest}>Largest</Button>
    <label
      class="flex items-center gap-1 text-sm whitespace-nowrap"
      {...hint('Changes reach this ratio alone, or all that follow the composition')}
    >
      <Checkbox bind:checked={mine.alone} /> this ratio alone
    </label>
    <Button
      color="light"
      disabled={!own}
      {...hint('Let this ratio follow the composition again')}
      onclick={follow}>Follow again</Button
    >
  </div>
  <div class="mb-1 flex items-center gap-1.5">
    {#each [['free', 'Free', 'Any width to any height, on this frame alone'], ['1:1', 'Square', 'As wide as high, on this frame alone']] as const as [ratio, label, told] (ratio)}
      <Button
        color="light"
        class="px-1.5"
        aria-pressed={crop.ratio === ratio}
        {...hint(told)}
        onclick={() => choose(ratio)}>{label}</Button
      >
    {/each}
    <span class="quiet text-xs">the job's ratios stay</span>
  </div>
  <p class="said text-sm text-accent" role="status">
    {#if error}
      {error}
    {:else if bench.plan.cropMoved}
      The crop was moved to stay on real pixels.
    {:else if crop.blank && bench.readings.cover < 100}
      {(100 - bench.readings.cover).toFixed(1)} % of the crop is blank.
    {/if}
  </p>
</section>
<section class="column" style:flex="0 0 232px" aria-label="Guides and size">
  <div class="flex items-center gap-1.5 mb-1.75">
    <Select
      {...hint('Lines inside the crop while it is placed')}
      placeholder=""
      aria-label="Guide"
      bind:value={mine.guide}
    >
      {#each GUIDES as guide (guide)}<option value={guide}>{GUIDE_WORDS[guide]}</option>{/each}
    </Select>
    <label
      class="flex items-center gap-1 text-sm whitespace-nowrap"
      {...hint("Edges, middle and guide come to rest on marks and on the picture's middle")}
    >
      <Checkbox bind:checked={mine.snap} /> snap
    </label>
  </div>
  <label
    class="flex items-center gap-1 text-sm whitespace-nowrap mb-1"
    {...hint(keepsNothing ?? 'The largest crop does not cut off what the marked lines belong to')}
  >
    <Checkbox
      checked={crop.keepMarked}
      disabled={keepsNothing !== null}
      onchange={(e) => bench.change('crop', { keepMarked: e.currentTarget.checked, enabled: true })}
    /> keep what is marked
  </label>
  <label class="flex items-center gap-1 text-sm whitespace-nowrap mb-1">
    <Checkbox
      checked={crop.blank}
      onchange={(e) => bench.change('crop', { blank: e.currentTarget.checked })}
    /> allow blank corners
  </label>
  <p class="font-semibold">
    {bench.plan.output.width} × {bench.plan.output.height} px, {(
      (bench.plan.output.width * bench.plan.output.height) /
      1e6
    ).toFixed(1)} MP
  </p>
  <p class="quiet text-sm" data-testid="printed">{printed.cm}, {printed.inches}</p>
  <label class="quiet flex items-center gap-1.5 text-sm">
    at
    <Input
      {...hint('Only tells what the picture measures on paper: pixels stay')}
      class="h-5.5 w-14.5!"
      type="number"
      aria-label="Resolution for the printed size"
      min={PPI.minimum}
      max={PPI.maximum}
      value={mine.ppi}
      onchange={(e) => takePpi(e.currentTarget)}
    /> ppi
  </label>
</section>
