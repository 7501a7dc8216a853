<!-- Lines step, By hand: angles with what is held back of each, the place of the picture in its crop, and its height. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { linesSchema } from '$core/lines/step.ts';
  import type { Job } from '$server/jobs/jobs.ts';
  import CarryDialog from '../CarryDialog.svelte';
  import type { OtherFrame } from '../step-parts.ts';
  import NumberControl from '../NumberControl.svelte';
  import type { Bench } from '../bench-state.svelte.ts';
  import { flipEdge } from './true-up.ts';

  interface Props {
    bench: Bench;
    job: Job;
    ready: OtherFrame[];
    off: string | null;
  }
  let { bench, job, ready, off }: Props = $props();
  const settings = linesSchema.properties;
  const lines = $derived(bench.recipe.lines);
  let carrying = $state(false);
  /** The sliders cover what photographs need; larger angles can be typed. */
  const ANGLES = [
    { name: 'roll', held: 'holdBackRoll', fine: [-10, 10] },
    { name: 'pitch', held: 'holdBackPitch', fine: [-30, 30] },
    { name: 'yaw', held: 'holdBackYaw', fine: [-45, 45] }
  ] as const;
  const PLACE = [
    { name: 'shiftX', fine: [-30, 30] },
    { name: 'shiftY', fine: [-30, 30] },
    { name: 'scale', fine: [100, 200] },
    { name: 'stretch', fine: [-10, 10] }
  ] as const;
  const edge = $derived(lines.marks.find(({ id }) => id === bench.view.edge));
  const asCropped = $derived(
    bench.plan.cropMoved && (lines.shiftX !== 0 || lines.shiftY !== 0)
      ? 'There are no more real pixels that way: the shift stops there.'
      : ''
  );
</script>

{#snippet numbers(
  all: readonly {
    name: 'roll' | 'pitch' | 'yaw' | 'shiftX' | 'shiftY' | 'scale' | 'stretch';
    fine: readonly [number, number];
  }[]
)}
  {#each all as { name, fine } (name)}
    <NumberControl
      setting={settings[name]}
      value={lines[name]}
      range={[...fine]}
      idle={off}
      change={(value, moving) => bench.change('lines', { [name]: value }, moving)}
    />
  {/each}
{/snippet}
<section class="column" aria-label="Angles">
  {@render numbers(ANGLES)}
  <div class="flex items-center gap-1.5 mt-1.25">
    <Button
      color="light"
      aria-pressed={bench.view.tool === 'edge'}
      title="Draw along one edge: the roll makes it plumb or level, whichever is nearer"
      onclick={() => (bench.view.tool = 'edge')}>Along an edge</Button
    >
    <Button
      color="light"
      disabled={!edge}
      title={edge ? 'Take the edge for the other of plumb and level' : 'Draw along an edge first'}
      onclick={() => flipEdge(bench)}>Flip</Button
    >
    <span class="said text-sm leading-[1.2]" role="status">{bench.view.linesSaid || asCropped}</span>
  </div>
</section>
<section class="column flex-[0_1_270px]" aria-label="Hold back">
  {#each ANGLES as { name, held } (name)}
    <NumberControl
      setting={{ ...settings[held], label: 'Hold back' }}
      label={`Hold back ${name}`}
      value={lines[held]}
      idle={off ?? (lines[name] === 0 ? `There is no ${name} to hold back.` : null)}
      change={(value, moving) => bench.change('lines', { [held]: value }, moving)}
    />
  {/each}
  <Button color="light" disabled={ready.length < 2} onclick={() => (carrying = true)}>Carry over…</Button>
</section>
<section class="column" aria-label="Place">
  {@render numbers(PLACE)}
</section>
<CarryDialog step="lines" bind:open={carrying} {bench} {job} {ready} />
