<!-- The histogram of what the sheet shows, with clipping counts. -->
<script lang="ts">
  import type { Histogram } from '../preview/messages.ts';

  let { histogram }: { histogram: Histogram | null } = $props();
  const SIZE = { width: 192, height: 84 };
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

<figure class="pt-2 px-3 pb-1 border-l border-l-line" aria-label="Histogram">
  <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} width={SIZE.width} height={SIZE.height}>
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
          stroke-width="1.2"
          stroke-dasharray={STYLES[i]}
        />
      {/each}
    {/if}
  </svg>
  <figcaption class="flex justify-between text-xs text-faint pt-1">
    <span title="Pixels that are fully black">black {share(histogram?.clippedLow ?? 0)}</span>
    <span title="Pixels at the top in any colour">clipped {share(histogram?.clippedHigh ?? 0)}</span>
  </figcaption>
</figure>
