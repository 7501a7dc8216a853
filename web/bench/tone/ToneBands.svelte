<!-- Bands: a bar for each stop of luminance that the picture holds, named by how light it is shown, dragged up to lighten and down to darken its broad parts. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { shareOf } from '$core/steps/tone/held-bands.ts';
  import { shownLightness } from '$core/steps/tone/shown-lightness.ts';
  import { DARKEST_BAND, LIGHTEST_BAND } from '$core/steps/tone/step.ts';
  import FineTool from '../room/FineTool.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { changeOf, withBand } from './band-changes.ts';
  import { toneView } from './tone-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
  }
  let { bench, sheet, off }: Props = $props();
  const mine = $derived(toneView(bench));
  const HEIGHT = 92;
  let room = $state(600);
  /** What stands under the bars. */
  const UNDER = 42;
  /** Two stops are half of a bar. */
  const perStop = (height: number): number => height / 4;
  /** Stops that arrow keys move a band by. */
  const STEP = 0.05;

  $effect(() => {
    if (mine.held || !sheet.opened) return;
    void sheet.preview?.ask<'bands'>({ kind: 'bands' }).then((held) => (mine.held = held));
  });

  const bands = $derived(bench.recipe.tone.bands);
  const stops = $derived.by(() => {
    if (!mine.held) return [];
    const set = bands.map(({ stop }) => stop);
    const from = Math.max(DARKEST_BAND, Math.min(mine.held.darkest, ...set));
    const to = Math.min(LIGHTEST_BAND, Math.max(mine.held.lightest, ...set));
    return Array.from({ length: to - from + 1 }, (_, i) => from + i);
  });
  const lightnessAt = $derived(shownLightness(bench.recipe.tone, bench.facts.rendering));
  /** The lightness that the middle of a band is shown as before it is changed, and how much of the picture it holds. */
  const lightnessOf = (stop: number): number => Math.round(lightnessAt(stop + 0.5));
  const share = (stop: number): string => {
    const percent = mine.held ? 100 * shareOf(mine.held, stop) : 0;
    return percent > 0 && percent < 1 ? '< 1 %' : `${Math.round(percent)} %`;
  };
  const signed = (change: number): string => `${change < 0 ? '−' : '+'}${Math.abs(change).toFixed(1)}`;
  let dragged: { stop: number; from: number; change: number; perStop: number } | null = null;

  const set = (stop: number, change: number, moving: boolean): void =>
    bench.change('tone', { bands: withBand(bench.recipe.tone.bands, stop, change) }, moving);

  function down(event: PointerEvent & { currentTarget: Element }, stop: number): void {
    if (off !== null || event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const { height } = event.currentTarget.getBoundingClientRect();
    dragged = { stop, from: event.clientY, change: changeOf(bands, stop), perStop: perStop(height) };
  }
  function move(event: PointerEvent): void {
    if (dragged) set(dragged.stop, dragged.change + (dragged.from - event.clientY) / dragged.perStop, true);
  }
  function up(): void {
    if (dragged) set(dragged.stop, changeOf(bench.recipe.tone.bands, dragged.stop), false);
    dragged = null;
  }
  function keydown(event: KeyboardEvent, stop: number): void {
    const by = STEP * (event.shiftKey ? 10 : 1);
    const direction = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (direction) set(stop, changeOf(bands, stop) + direction * by, false);
    else if (event.key === 'Delete' || event.key === 'Backspace') set(stop, 0, false);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<section class="column" aria-label="Bands">
  <div class="flex h-full gap-3 beside:flex-col">
    <div class="min-w-0 flex-1 beside:flex-none" bind:clientWidth={room}>
      <FineTool name="bands" small={{ width: room, height: HEIGHT + UNDER }}>
        {#snippet tool({ width, height })}
          {@const bar = height - UNDER}
          <div class="flex items-start gap-0.75" data-testid="bands" style:width={`${width}px`}>
            {#each stops as stop (stop)}
              {@const change = changeOf(bands, stop)}
              <div class="flex max-w-13 beside:max-w-none min-w-0 flex-1 flex-col items-stretch gap-0.5">
                <svg
                  class={[
                    'block w-full cursor-ns-resize touch-none border bg-panel',
                    mine.pointed === stop ? 'border-accent' : 'border-line'
                  ]}
                  viewBox={`0 0 40 ${bar}`}
                  preserveAspectRatio="none"
                  height={bar}
                  role="slider"
                  tabindex={off === null ? 0 : -1}
                  aria-label={`Band of L* ${lightnessOf(stop)}, ${share(stop)} of the picture`}
                  aria-disabled={off !== null}
                  aria-valuemin={-2}
                  aria-valuemax={2}
                  aria-valuenow={change}
                  aria-valuetext={`${change.toFixed(2)} EV`}
                  onpointerdown={(event) => down(event, stop)}
                  onpointermove={move}
                  onpointerup={up}
                  ondblclick={() => off === null && set(stop, 0, false)}
                  onkeydown={(event) => keydown(event, stop)}
                >
                  <path d={`M0 ${bar / 2}H40`} stroke="var(--line)" />
                  <rect
                    x="8"
                    width="24"
                    y={change > 0 ? bar / 2 - change * perStop(bar) : bar / 2}
                    height={Math.abs(change) * perStop(bar)}
                    fill="var(--accent)"
                  />
                </svg>
                <span class="h-2.5 border border-line" style:background={`lab(${lightnessOf(stop)}% 0 0)`}
                ></span>
                <span
                  class="text-center text-xs leading-tight whitespace-nowrap"
                  {...hint(
                    `Shown as L* ${lightnessOf(stop)}; ${share(stop)} of the picture; changed by ${signed(change)} EV`
                  )}
                >
                  L* {lightnessOf(stop)}<br />
                  <span class={change === 0 ? 'quiet' : 'text-accent'}
                    >{change === 0 ? share(stop) : signed(change)}</span
                  >
                </span>
              </div>
            {/each}
            {#if stops.length === 0}<p class="quiet text-sm">Looking at what the picture holds…</p>{/if}
          </div>
        {/snippet}
      </FineTool>
    </div>
    <div class="flex flex-[0_0_220px] flex-col gap-1.5 beside:flex-none">
      <div class="flex gap-1.25">
        <Button
          color="light"
          disabled={off !== null}
          aria-pressed={mine.picking}
          {...hint('Drag on the picture, up or down, what is to be lighter or darker')}
          onclick={() => (mine.picking = !mine.picking)}>On the picture</Button
        >
        <Button
          {...hint('Every band as it was')}
          color="light"
          disabled={off !== null || bands.length === 0}
          onclick={() => bench.change('tone', { bands: [] })}>All back</Button
        >
      </div>
      <p class="quiet text-xs leading-[1.35]" role="status">
        {off ??
          (mine.picking
            ? mine.pointed === null
              ? 'Point at the picture to see its band; drag up or down to change it.'
              : `Pointed at: L* ${lightnessOf(mine.pointed)}, ${share(mine.pointed)} of the picture.`
            : 'Each bar is a stop of light, named by the lightness that it is shown as and its share of the picture. What is thin goes with what is about it.')}
      </p>
    </div>
  </div>
</section>
