<!-- The curves of an area, by what they act on. -->
<script lang="ts">
  import { CURVES, type CurveName, toneSchema } from '$core/steps/tone/step.ts';
  import { Button, Select } from 'flowbite-svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import FineTool from '../room/FineTool.svelte';
  import { curveCounts } from '../tone/curve-counts.ts';
  import CurveEditor from '../tone/CurveEditor.svelte';
  import { hint } from '../../lib/hints/hint.ts';
  import { areasView } from './areas-view.svelte.ts';
  import { chosenArea, setInArea } from './edit-areas.ts';

  let { bench, off }: { bench: Bench; off: string | null } = $props();
  const chosen = $derived(chosenArea(bench));
  let which = $state<CurveName>('curve');
  const points = $derived(chosen?.area.settings.tone[which] ?? []);
  const mine = $derived(areasView(bench));
  /** The tones that the area covers. */
  const behind = $derived(curveCounts(which, mine.histogram));
  const change = (curve: { x: number; y: number }[], moving: boolean): void =>
    setInArea(bench, 'tone', { [which]: curve }, moving);
</script>

<section class="column flex gap-3 beside:flex-col" aria-label="Curve of the area">
  <FineTool name="the curve" small={{ width: 132, height: 132 }} square={264}>
    {#snippet tool({ height })}
      <CurveEditor
        label={toneSchema.properties[which].label}
        {points}
        disabled={off !== null || !chosen}
        counts={behind}
        size={height}
        {change}
      />
    {/snippet}
  </FineTool>
  <div
    class="flex max-w-70 min-w-0 flex-1 flex-col items-start gap-1.5 beside:max-w-none beside:flex-row beside:items-center"
  >
    <Select
      {...hint('Of all light, or of one colour')}
      placeholder=""
      class="w-full beside:w-32 beside:flex-none"
      aria-label="Which curve of the area"
      disabled={off !== null || !chosen}
      bind:value={which}
    >
      {#each CURVES as name (name)}
        <option value={name}
          >{toneSchema.properties[name].label}{(chosen?.area.settings.tone[name].length ?? 0) > 0
            ? ' ·'
            : ''}</option
        >
      {/each}
    </Select>
    <Button
      color="light"
      disabled={points.length === 0}
      {...hint('A straight line: the curve changes nothing')}
      onclick={() => change([], false)}>Straight</Button
    >
    <p class="quiet text-xs beside:hidden">
      {chosen ? toneSchema.properties[which].description : 'No area is chosen: choose one in the list.'}
    </p>
  </div>
</section>
