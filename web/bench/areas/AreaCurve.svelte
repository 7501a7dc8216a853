<!-- The curve of an area, on luminance. -->
<script lang="ts">
  import { toneSchema } from '$core/steps/tone/step.ts';
  import { Button } from 'flowbite-svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import FineTool from '../room/FineTool.svelte';
  import CurveEditor from '../tone/CurveEditor.svelte';
  import { hint } from '../../lib/hints/hint.ts';
  import { chosenArea, setInArea } from './edit-areas.ts';

  let { bench, off }: { bench: Bench; off: string | null } = $props();
  const chosen = $derived(chosenArea(bench));
  const points = $derived(chosen?.area.settings.tone.curve ?? []);
  const change = (curve: { x: number; y: number }[], moving: boolean): void =>
    setInArea(bench, 'tone', { curve }, moving);
</script>

<section class="column flex gap-3 beside:flex-col" aria-label="Curve of the area">
  <FineTool name="the curve" small={{ width: 132, height: 132 }} square={264}>
    {#snippet tool({ height })}
      <CurveEditor
        label={toneSchema.properties.curve.label}
        {points}
        disabled={off !== null || !chosen}
        size={height}
        {change}
      />
    {/snippet}
  </FineTool>
  <div
    class="flex max-w-70 min-w-0 flex-1 flex-col items-start gap-1.5 beside:max-w-none beside:flex-row beside:items-center"
  >
    <Button
      color="light"
      disabled={points.length === 0}
      {...hint('A straight line: the curve changes nothing')}
      onclick={() => change([], false)}>Straight</Button
    >
    <p class="quiet text-xs">
      {chosen
        ? 'On luminance, within the area: hue and saturation stay.'
        : 'No area is chosen: choose one in the list.'}
    </p>
  </div>
</section>
