<!-- Levels: what becomes black, middle and white, dragged under the histogram or typed. -->
<script lang="ts">
  import { Button, Select } from 'flowbite-svelte';
  import { untrack } from 'svelte';
  import { LEVELS, type Levels, type LevelsName, toneSchema } from '$core/steps/tone/step.ts';
  import { isLevel } from '$core/steps/tone/levels.ts';
  import FineTool from '../room/FineTool.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import LevelNumbers from './LevelNumbers.svelte';
  import { endsOf, middlePlace, placedMiddle } from './level-places.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    off: string | null;
  }
  let { bench, off }: Props = $props();
  let which = $state<LevelsName>('levels');
  const levels = $derived(bench.recipe.tone[which]);
  const curve = (name: LevelsName): number[] | null => {
    const { histogram } = bench;
    if (!histogram) return null;
    return name === 'levels' ? histogram.luminance : histogram.counts[LEVELS.indexOf(name) - 1];
  };
  /** What the picture held before its levels: kept from when they were last neutral. */
  let before = $state.raw<Partial<Record<LevelsName, number[]>>>({});
  $effect(() => {
    const found = curve(which);
    if (found && isLevel(levels) && !bench.view.moving)
      untrack(() => (before = { ...before, [which]: found }));
  });
  const counts = $derived(before[which] ?? curve(which));
  const pathOf = (width: number, height: number): string => {
    if (!counts) return '';
    const top = Math.max(1, ...counts.slice(1, 255));
    const at = (count: number, i: number): string =>
      `${((i / 255) * width).toFixed(1)} ${(height - Math.min(1, Math.sqrt(count / top)) * (height - 4)).toFixed(1)}`;
    return `M0 ${height}L${counts.map(at).join('L')}L${width} ${height}Z`;
  };
  const change = (own: Partial<Levels>, moving = false): void =>
    bench.change('tone', { [which]: { ...levels, ...own } }, moving);

  type Handle = 'black' | 'middle' | 'white';
  const places = $derived<Record<Handle, number>>({
    black: levels.black,
    middle: middlePlace(levels),
    white: levels.white
  });
  let held: Handle | null = null;
  let plot = $state() as SVGSVGElement;
  const placeOf = (event: PointerEvent): number => {
    const box = plot.getBoundingClientRect();
    return Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
  };
  function moved(handle: Handle, to: number): Partial<Levels> {
    const rounded = Math.round(to * 1000) / 1000;
    if (handle === 'black') return { black: Math.min(rounded, levels.white - 0.01) };
    if (handle === 'white') return { white: Math.max(rounded, levels.black + 0.01) };
    return { middle: placedMiddle(levels, rounded) };
  }
  function down(event: PointerEvent): void {
    if (off !== null || event.button !== 0) return;
    plot.setPointerCapture(event.pointerId);
    const at = placeOf(event);
    held = (['black', 'middle', 'white'] as const).reduce((best, name) =>
      Math.abs(places[name] - at) < Math.abs(places[best] - at) ? name : best
    );
    change(moved(held, at), true);
  }
  const NEUTRAL = toneSchema.properties.levels.default;
</script>

<section class="column flex flex-[0_0_396px] flex-col" aria-label="Levels">
  <FineTool name="levels" small={{ width: 360, height: 84 }}>
    {#snippet tool({ width, height })}
      <svg
        class="block flex-none cursor-ew-resize touch-none border border-line bg-panel"
        bind:this={plot}
        viewBox={`0 0 ${width} ${height}`}
        {width}
        {height}
        role="group"
        aria-label={`${toneSchema.properties[which].label}, over the histogram`}
        data-testid="levels"
        onpointerdown={down}
        onpointermove={(event) => held && change(moved(held, placeOf(event)), true)}
        onpointerup={() => {
          if (held) change({}, false);
          held = null;
        }}
      >
        <path d={pathOf(width, height)} fill="var(--soft)" stroke="var(--faint)" />
        {#each ['black', 'middle', 'white'] as const as name (name)}
          {@const x = places[name] * width}
          <path
            d={`M${x} 0V${height}`}
            stroke="var(--ink)"
            stroke-dasharray={name === 'middle' ? '3 3' : undefined}
          />
          <path
            d={`M${x - 5} ${height}l5 -9l5 9z`}
            fill={name === 'black' ? 'var(--ink)' : name === 'white' ? 'var(--panel)' : 'var(--faint)'}
            stroke="var(--ink)"
          />
        {/each}
      </svg>
    {/snippet}
  </FineTool>
  <div class="flex items-center gap-1.5 pt-2">
    <Select
      {...hint('Of all light, or of one colour')}
      placeholder=""
      class="w-40!"
      aria-label="Levels of"
      disabled={off !== null}
      bind:value={which}
    >
      {#each LEVELS as name (name)}
        <option value={name}
          >{toneSchema.properties[name].label}{isLevel(bench.recipe.tone[name]) ? '' : ' ·'}</option
        >
      {/each}
    </Select>
    <Button
      color="light"
      disabled={off !== null || !counts}
      {...hint('Black and white where the picture begins and ends')}
      onclick={() => counts && change(endsOf(counts))}>By itself</Button
    >
    <Button
      {...hint('Levels as they come')}
      color="light"
      disabled={off !== null || isLevel(levels)}
      onclick={() => change(NEUTRAL)}>Back</Button
    >
  </div>
</section>
<section class="column" aria-label="Levels in numbers">
  <LevelNumbers {levels} {off} {change} />
</section>
