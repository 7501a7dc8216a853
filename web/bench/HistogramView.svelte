<!-- The histogram of the crop, or of what the sheet shows of it, with clipping counts; large, its parts are dragged. -->
<script lang="ts">
  import { Button, ButtonGroup } from 'flowbite-svelte';
  import { RGB_SPACES } from '$core/colour/rgb-spaces.ts';
  import { untrack } from 'svelte';
  import type { Histogram } from '../preview/messages.ts';
  import type { Bench } from './state/bench-state.svelte.ts';
  import { CLIPPING } from './state/clipping.ts';
  import { type Zone, draggedZone, zoneAt } from './tone/histogram-zones.ts';
  import { roomInHand } from './room/room-state.svelte.ts';
  import { hint } from '../lib/hints/hint.ts';

  /** `beside`: on the board beside the sheet, as wide as that is. */
  let { bench, beside }: { bench: Bench; beside: boolean } = $props();
  const histogram = $derived(bench.histogram);
  let large = $state(false);
  let logarithmic = $state(false);
  let curves = $state<'luminance' | 'colours'>('colours');
  const room = roomInHand();
  const NARROW = 1440;
  /** Below the sheet a narrow window has its width for the tracks of the deck. */
  const narrow = $derived(!beside && room.size.width < NARROW);
  const SIZE = $derived(
    large ? { width: 520, height: 180 } : { width: beside ? 320 : narrow ? 88 : 192, height: 84 }
  );
  const STYLES = ['3 0', '1 2', '5 2'];
  const COLOURS = ['#a33', '#2f7d3b', '#36c'];

  // The last histogram at rest, and the one before it, which stays behind as a ghost.
  let settled = $state.raw<Histogram | null>(null);
  let ghost = $state.raw<Histogram | null>(null);
  $effect(() => {
    const now = histogram;
    if (bench.view.moving || !now) return;
    untrack(() => {
      if (settled && settled !== now) ghost = settled;
      settled = now;
    });
  });
  const behind = $derived(bench.view.moving ? settled : ghost);

  // The outermost values hold what is clipped; they must not flatten the rest.
  const topOf = (all: readonly number[][]): number => Math.max(1, ...all.flatMap((c) => c.slice(1, 255)));
  const shownCurves = (of: Histogram | null): number[][] =>
    of ? (curves === 'luminance' && large ? [of.luminance] : of.counts) : [];
  const top = $derived(topOf(shownCurves(histogram)));
  function path(counts: readonly number[]): string {
    const share = (count: number): number =>
      logarithmic && large ? Math.log1p(count) / Math.log1p(top) : Math.sqrt(count / top);
    // Four values a step where it is small: single ones would only be noise.
    const step = large ? 2 : 4;
    const at: string[] = [];
    for (let i = 0; i < 256; i += step) {
      const mean = counts.slice(i, i + step).reduce((sum, count) => sum + count, 0) / step;
      const y = SIZE.height - Math.min(1, share(mean)) * (SIZE.height - 2);
      at.push(`${((i / (256 - step)) * SIZE.width).toFixed(1)} ${y.toFixed(1)}`);
    }
    return `M${at.join('L')}`;
  }
  const share = (count: number): string => {
    const percent = histogram && histogram.pixels > 0 ? (100 * count) / histogram.pixels : 0;
    return percent === 0 ? '0 %' : percent < 0.1 ? '< 0.1 %' : `${percent.toFixed(1)} %`;
  };
  const byColour = (ends: readonly number[]): string =>
    ['R', 'G', 'B'].map((name, i) => `${name} ${share(ends[i])}`).join(' · ');

  let pointed = $state<Zone | null>(null);
  let drag: { zone: Zone; from: number; value: number } | null = null;
  const place = (event: PointerEvent): number => {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    return (event.clientX - box.left) / box.width;
  };
  function down(event: PointerEvent): void {
    if (event.button !== 0 || !bench.recipe.tone.enabled) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const zone = zoneAt(place(event));
    drag = { zone, from: place(event), value: bench.recipe.tone[zone.name] };
  }
  function move(event: PointerEvent): void {
    if (!drag) pointed = zoneAt(place(event));
    else
      bench.change(
        'tone',
        { [drag.zone.name]: draggedZone(drag.zone, drag.value, place(event) - drag.from) },
        true
      );
  }
  function up(): void {
    if (drag) bench.change('tone', {}, false);
    drag = null;
  }
</script>

{#snippet plot()}
  <svg
    viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
    width={large || beside ? '100%' : SIZE.width}
    height={beside && !large ? '100%' : SIZE.height}
    preserveAspectRatio="none"
    aria-hidden="true"
  >
    {#if large && pointed}
      <rect
        x={pointed.from * SIZE.width}
        width={(pointed.to - pointed.from) * SIZE.width}
        height={SIZE.height}
        fill="var(--soft)"
      />
    {/if}
    <path d={`M0 ${SIZE.height - 0.5}H${SIZE.width}`} stroke="var(--line)" />
    {#each [1, 2, 3] as quarter (quarter)}
      <path d={`M${(quarter * SIZE.width) / 4} 0V${SIZE.height}`} stroke="var(--soft)" />
    {/each}
    {#if large}
      {#each shownCurves(behind) as counts, i (i)}
        <path d={path(counts)} fill="none" stroke="var(--line)" stroke-width="1.2" />
      {/each}
    {/if}
    {#each shownCurves(histogram) as counts, i (i)}
      {@const alone = curves === 'luminance' && large}
      <path
        d={path(counts)}
        fill="none"
        stroke={alone ? 'var(--ink)' : COLOURS[i]}
        stroke-width={large ? 1.6 : 1.2}
        stroke-dasharray={alone ? undefined : STYLES[i]}
      />
    {/each}
  </svg>
{/snippet}
{#if large}
  <figure
    class="fixed {beside
      ? 'left-0'
      : 'right-0'} bottom-0 z-20 border border-line bg-panel px-4 pt-3 pb-2 shadow-xl"
    aria-label="Histogram"
  >
    <div class="flex items-center gap-2 pb-2 text-sm">
      <ButtonGroup>
        {#each ['colours', 'luminance'] as const as name (name)}
          <Button color="light" class="h-6" aria-pressed={curves === name} onclick={() => (curves = name)}
            >{name}</Button
          >
        {/each}
      </ButtonGroup>
      <Button
        color="light"
        class="h-6"
        aria-pressed={logarithmic}
        {...hint('Counts by their logarithm: rare tones show')}
        onclick={() => (logarithmic = !logarithmic)}>logarithmic</Button
      >
      {#if bench.wideScreen}
        <ButtonGroup>
          {#each [false, true] as wide (wide)}
            <Button
              color="light"
              class="h-6"
              aria-pressed={bench.view.wide === wide}
              {...hint(
                wide
                  ? 'Show all colours that this screen has; clipping is told of them'
                  : 'Show, and tell clipping, as a picture in sRGB would be'
              )}
              onclick={() => (bench.view.wide = wide)}>{RGB_SPACES[wide ? 'display-p3' : 'srgb'].name}</Button
            >
          {/each}
        </ButtonGroup>
      {/if}
      <Button
        color="light"
        class="h-6"
        aria-pressed={bench.view.histogramOfSeen}
        {...hint('Counts only what the sheet shows, in place of the whole crop')}
        onclick={() => (bench.view.histogramOfSeen = !bench.view.histogramOfSeen)}>only what is seen</Button
      >
      <span class="quiet flex-1 text-xs" role="status">
        {pointed ? `Drag here: ${pointed.label}` : 'The line behind is what was before.'}
      </span>
      <Button
        color="light"
        class="h-6"
        aria-label="Make the histogram small"
        aria-expanded={true}
        onclick={() => (large = false)}>Small</Button
      >
    </div>
    <div
      class="cursor-ew-resize touch-none"
      role="presentation"
      data-testid="histogram-plot"
      onpointerdown={down}
      onpointermove={move}
      onpointerup={up}
      onpointerleave={() => (pointed = null)}
    >
      {@render plot()}
    </div>
    <figcaption class="pt-1 text-sm text-faint">
      <div class="flex items-center justify-between gap-3">
        <span {...hint('Pixels that are fully black')}>black {share(histogram?.clippedLow ?? 0)}</span>
        <ButtonGroup>
          {#each CLIPPING as name (name)}
            <Button
              color="light"
              class="h-6"
              aria-pressed={bench.view.clipping === name}
              {...hint(
                name === 'off'
                  ? 'Mark no clipping'
                  : `Mark clipping of ${name === 'any' ? 'any colour' : name}`
              )}
              onclick={() => (bench.view.clipping = name)}>{name}</Button
            >
          {/each}
        </ButtonGroup>
        <span {...hint('Pixels at the top in any colour')}>clipped {share(histogram?.clippedHigh ?? 0)}</span>
      </div>
      {#if histogram}
        <div class="flex justify-between gap-3 pt-0.5 text-xs">
          <span {...hint('Pixels at the bottom, by colour')}>{byColour(histogram.low)}</span>
          <span {...hint('Pixels at the top, by colour')}>{byColour(histogram.high)}</span>
        </div>
      {/if}
    </figcaption>
  </figure>
{:else}
  <figure
    class={[
      'border-line px-3 pb-1',
      beside ? 'mt-auto flex max-h-44 min-h-18 flex-1 flex-col border-t pt-1.5' : 'flex-none border-l pt-2'
    ]}
    aria-label="Histogram"
  >
    <Button
      color="alternative"
      class="ghost h-auto min-h-0 w-full flex-1 rounded-none border-0 p-0"
      aria-label="Make the histogram large"
      aria-expanded={false}
      onclick={() => (large = true)}
    >
      {@render plot()}
    </Button>
    <figcaption
      class={[
        'flex pt-1 text-xs text-faint',
        narrow ? 'flex-col items-start gap-0.5' : 'items-center justify-between gap-3'
      ]}
    >
      <span {...hint('Pixels that are fully black')}>black {share(histogram?.clippedLow ?? 0)}</span>
      {#if bench.space !== 'srgb'}
        <span {...hint('The colours that the sheet is shown in, and that clipping is told of')}
          >{RGB_SPACES[bench.space].name}</span
        >
      {/if}
      <span {...hint('Pixels at the top in any colour')}>clipped {share(histogram?.clippedHigh ?? 0)}</span>
    </figcaption>
  </figure>
{/if}
