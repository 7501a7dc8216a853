<!-- The histogram of what the sheet shows, with clipping counts. -->
<script lang="ts">
  import { Button, ButtonGroup } from 'flowbite-svelte';
  import { CLIPPING, type Clipping } from './sheet/clipping-marks.ts';
  import type { Histogram } from '../preview/messages.ts';

  interface Props {
    histogram: Histogram | null;
    clipping: Clipping;
  }
  let { histogram, clipping = $bindable() }: Props = $props();
  let large = $state(false);
  const SIZE = $derived(large ? { width: 520, height: 180 } : { width: 192, height: 84 });
  const STYLES = ['3 0', '1 2', '5 2'];
  const COLOURS = ['#a33', '#2f7d3b', '#36c'];

  const path = (counts: number[], top: number): string =>
    counts
      .map((count, i) => {
        const x = (i / 63) * SIZE.width;
        const y = SIZE.height - Math.min(1, Math.sqrt(count / top)) * (SIZE.height - 2);
        return `${i === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`;
      })
      .join('');
  // The outermost bins hold what is clipped; they must not flatten the rest.
  const top = $derived(histogram ? Math.max(1, ...histogram.counts.flatMap((c) => c.slice(1, 63))) : 1);
  const share = (count: number): string => {
    const percent = histogram && histogram.pixels > 0 ? (100 * count) / histogram.pixels : 0;
    return percent === 0 ? '0 %' : percent < 0.1 ? '< 0.1 %' : `${percent.toFixed(1)} %`;
  };
</script>

{#snippet curves()}
  <svg
    viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
    width={SIZE.width}
    height={SIZE.height}
    aria-hidden="true"
  >
    <path d={`M0 ${SIZE.height - 0.5}H${SIZE.width}`} stroke="var(--line)" />
    {#each [1, 2, 3] as quarter (quarter)}
      <path d={`M${(quarter * SIZE.width) / 4} 0V${SIZE.height}`} stroke="var(--soft)" />
    {/each}
    {#if histogram}
      {#each histogram.counts as counts, i (i)}
        <path
          d={path(counts, top)}
          fill="none"
          stroke={COLOURS[i]}
          stroke-width={large ? 1.6 : 1.2}
          stroke-dasharray={STYLES[i]}
        />
      {/each}
    {/if}
  </svg>
{/snippet}
<figure
  class={large
    ? 'fixed right-0 bottom-0 z-20 border border-line bg-panel px-4 pt-3 pb-2 shadow-xl'
    : 'border-l border-l-line px-3 pt-2 pb-1'}
  aria-label="Histogram"
>
  <Button
    color="alternative"
    class="ghost h-auto rounded-none border-0 p-0"
    aria-label={large ? 'Make the histogram small' : 'Make the histogram large'}
    aria-expanded={large}
    onclick={() => (large = !large)}
  >
    {@render curves()}
  </Button>
  <figcaption
    class={['flex items-center justify-between gap-3 pt-1 text-faint', large ? 'text-sm' : 'text-xs']}
  >
    <span title="Pixels that are fully black">black {share(histogram?.clippedLow ?? 0)}</span>
    {#if large}
      <ButtonGroup>
        {#each CLIPPING as name (name)}
          <Button
            color="light"
            class="h-6"
            aria-pressed={clipping === name}
            title={name === 'off'
              ? 'Mark no clipping'
              : `Mark clipping of ${name === 'any' ? 'any colour' : name}`}
            onclick={() => (clipping = name)}>{name}</Button
          >
        {/each}
      </ButtonGroup>
    {/if}
    <span title="Pixels at the top in any colour">clipped {share(histogram?.clippedHigh ?? 0)}</span>
  </figcaption>
</figure>
