<!-- Light: exposure, its ends, highlights and shadows, and how a raw file is rendered. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { RANGE, TOGETHER } from '$core/steps/tone/suggest-tone.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import { MOST_AMOUNT, type Suggest, byAmount, takeAmount } from './suggest.ts';
  import NumberControl from '../controls/NumberControl.svelte';
  import { toneView } from './tone-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    off: string | null;
    suggest: Suggest;
  }
  let { bench, off, suggest }: Props = $props();
  const mine = $derived(toneView(bench));
  const finished = $derived(
    bench.facts.rendering === 'scene' ? null : 'This picture is rendered already: this is for raw files.'
  );
  const range = $derived(bench.recipe.tone.rendering === 'range' && finished === null);
  /** How much of what was found is taken, as long as none of it was set by hand since. */
  const amount = $derived.by(() => {
    const { itself } = mine;
    if (!itself) return null;
    const taken = byAmount(itself.before, itself.found, itself.amount);
    return TOGETHER.every((name) => bench.recipe.tone[name] === taken[name]) ? itself.amount : null;
  });
  const FIRST = ['exposure', 'recovery', 'highlights', 'shadows'] as const;
  const SECOND = ['white', 'black', 'contrast'] as const;
</script>

<section class="column" aria-label="Light">
  {#each FIRST as name (name)}
    <SettingControl {bench} step="tone" {name} idle={off} suggest={() => suggest([name])} />
  {/each}
</section>
<section class="column" aria-label="Middle and ends">
  {#each SECOND as name (name)}
    <SettingControl {bench} step="tone" {name} idle={off} suggest={() => suggest([name])} />
  {/each}
  <SettingControl {bench} step="tone" name="midtones" idle={off} />
</section>
<section class="column" aria-label="Rendering">
  <div class="flex items-center gap-2 pb-1.5">
    <SettingControl {bench} step="tone" name="rendering" idle={off ?? finished} />
    <span class="flex-1"></span>
    {#if range}
      <Button
        color="light"
        disabled={off !== null}
        {...hint('White, middle and black of the range from what the picture holds')}
        onclick={() => suggest(RANGE)}>Find the range</Button
      >
    {/if}
  </div>
  {#if range}
    {#each RANGE as name (name)}
      <SettingControl
        {bench}
        step="tone"
        {name}
        idle={off}
        label={{ rangeWhite: 'White', rangeMiddle: 'Middle', rangeBlack: 'Black' }[name]}
        spoken={{
          rangeWhite: 'White of range',
          rangeMiddle: 'Middle of range',
          rangeBlack: 'Black of range'
        }[name]}
      />
    {/each}
  {:else}
    <Button
      disabled={off !== null}
      {...hint('Exposure, recovery, highlights, shadows, contrast and ends, from what the picture holds')}
      onclick={() => suggest()}>All by itself</Button
    >
    {#if amount !== null}
      <NumberControl
        setting={{ label: 'Amount', minimum: 0, maximum: MOST_AMOUNT, step: 1, default: 100, unit: '%' }}
        label="Amount by itself"
        description="How much of what was found is taken; at 0 all is as it was before."
        value={amount}
        idle={off}
        change={(value, moving) => takeAmount(bench, value, moving)}
      />
    {/if}
    <p class="quiet pt-1.5 text-xs" role="status">
      {mine.said ||
        '◇ sets one control by itself. With Alt held while an end is dragged, only what clips is seen.'}
    </p>
  {/if}
</section>
