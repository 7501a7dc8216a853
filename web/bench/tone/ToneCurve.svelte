<!-- Curves, by what they act on: drawn, dragged on the picture, typed, or one of a few ready shapes. -->
<script lang="ts">
  import { Button, Input, Select } from 'flowbite-svelte';
  import { CURVES, toneSchema } from '$core/steps/tone/step.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import FineTool from '../room/FineTool.svelte';
  import CurveEditor from './CurveEditor.svelte';
  import { curveCounts } from './curve-counts.ts';
  import { CURVE_SHAPES, shapeOf } from './curve-shapes.ts';
  import { toneView } from './tone-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    off: string | null;
  }
  let { bench, off }: Props = $props();
  const mine = $derived(toneView(bench));
  const tone = $derived(bench.recipe.tone);
  const which = $derived(mine.curve);
  const shape = $derived(shapeOf(tone[which]));
  const typed = $derived(
    tone[which].map(({ x, y }) => `${Math.round(x * 100)}:${Math.round(y * 100)}`).join(' ')
  );
  const behind = $derived(curveCounts(which, bench.histogram));
  let fault = $state('');

  /** Points as "25:20 75:80", in percent. */
  function take(text: string): void {
    const points = text
      .split(/[\s;]+/)
      .filter(Boolean)
      .map((pair) => pair.split(':').map(Number));
    const sound = points.every((pair) => pair.length === 2 && pair.every((n) => n >= 0 && n <= 100));
    fault = sound ? '' : 'Write points as 25:20 75:80, in percent.';
    if (sound) bench.change('tone', { [which]: points.map(([x, y]) => ({ x: x / 100, y: y / 100 })) });
  }
</script>

<section class="column flex gap-3 beside:flex-col" aria-label="Curve">
  <FineTool name="the curve" small={{ width: 132, height: 132 }} square>
    {#snippet tool({ height })}
      <CurveEditor
        label={toneSchema.properties[which].label}
        points={tone[which]}
        disabled={off !== null}
        pointed={mine.pointed}
        counts={behind}
        size={height}
        change={(points, moving) => bench.change('tone', { [which]: points }, moving)}
      />
    {/snippet}
  </FineTool>
  <div class="flex max-w-70 min-w-0 flex-1 flex-col gap-1.5 beside:max-w-none beside:flex-none">
    <Select
      {...hint('Of all light, or of one colour')}
      placeholder=""
      class="w-full"
      aria-label="Which curve"
      disabled={off !== null}
      bind:value={mine.curve}
    >
      {#each CURVES as name (name)}
        <option value={name}>{toneSchema.properties[name].label}{tone[name].length > 0 ? ' ·' : ''}</option>
      {/each}
    </Select>
    <Select
      {...hint('A ready shape to begin from')}
      placeholder=""
      class="w-full"
      aria-label="Shape of the curve"
      disabled={off !== null}
      value={shape}
      onchange={(event) => {
        const points = CURVE_SHAPES[event.currentTarget.value];
        if (points) bench.change('tone', { [which]: points.map((point) => ({ ...point })) });
      }}
    >
      {#each Object.keys(CURVE_SHAPES) as name (name)}<option value={name}>{name}</option>{/each}
      {#if shape === 'own'}<option value="own">own</option>{/if}
    </Select>
    <Input
      {...hint('Input against output, in percent; also by dragging on the curve')}
      aria-label="Points of the curve, in percent"
      placeholder="25:20 75:80"
      disabled={off !== null}
      value={typed}
      onkeydown={(event: KeyboardEvent) => {
        if (event.key === 'Enter') (event.currentTarget as HTMLElement).blur();
      }}
      onchange={(event) => take(event.currentTarget.value)}
    />
    <p class="quiet text-xs leading-[1.3]">{fault || toneSchema.properties[which].description}</p>
  </div>
  <div class="flex flex-[0_0_220px] flex-col items-start gap-1.5 beside:flex-none">
    <Button
      color="light"
      disabled={off !== null}
      aria-pressed={mine.picking}
      {...hint('See where the pointed-at tone lies on the curve, and drag it up or down on the picture')}
      onclick={() => (mine.picking = !mine.picking)}>On the picture</Button
    >
    <p class="quiet text-xs leading-[1.35]" role="status">
      {mine.picking
        ? mine.pointed === null
          ? 'Point at the picture to see its tone on the curve; drag up or down to move the curve there.'
          : `Tone ${Math.round(mine.pointed * 100)} % is pointed at.`
        : ''}
    </p>
  </div>
</section>
