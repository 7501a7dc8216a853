<!-- Lines step, By hand: angles with what is held back of each, the place of the picture in its crop, and its height. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import type { Job } from '$server/jobs/jobs.ts';
  import CarryDialog from '../parts/CarryDialog.svelte';
  import { roomInHand } from '../room/room-state.svelte.ts';
  import type { OtherFrame } from '../parts/step-parts.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { flipEdge, heldBack, makeFull } from './true-up.ts';
  import { linesView } from './lines-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    job: Job;
    ready: OtherFrame[];
    off: string | null;
  }
  let { bench, job, ready, off }: Props = $props();
  const mine = $derived(linesView(bench));
  const lines = $derived(bench.recipe.lines);
  let carrying = $state(false);
  const ANGLES = [
    { name: 'roll', held: 'holdBackRoll' },
    { name: 'pitch', held: 'holdBackPitch' },
    { name: 'yaw', held: 'holdBackYaw' }
  ] as const;
  const PLACE = ['shiftX', 'shiftY', 'scale', 'stretch'] as const;
  /** Below, each stands in the row of its angle. */
  const LABELS = { roll: 'of the roll', pitch: 'of the pitch', yaw: 'of the yaw' };
  const room = roomInHand();
  const beside = $derived(room.beside);
  const holdsBack = $derived(heldBack(lines));
  const edge = $derived(lines.marks.find(({ id }) => id === mine.edge));
  const asCropped = $derived(
    bench.plan.cropMoved && (lines.shiftX !== 0 || lines.shiftY !== 0)
      ? 'There are no more real pixels that way: the shift stops there.'
      : ''
  );
</script>

<section class="column" aria-label="Angles">
  {#each ANGLES as { name } (name)}<SettingControl {bench} step="lines" {name} idle={off} />{/each}
  <div class="flex items-center gap-1.5 mt-1.25">
    <Button
      color="light"
      aria-pressed={mine.tool === 'edge'}
      {...hint('Draw along one edge: the roll makes it plumb or level, whichever is nearer')}
      onclick={() => (mine.tool = 'edge')}>Along an edge</Button
    >
    <Button
      color="light"
      disabled={!edge}
      {...hint(edge ? 'Take the edge for the other of plumb and level' : 'Draw along an edge first')}
      onclick={() => flipEdge(bench)}>Flip</Button
    >
    <span class="said text-sm leading-[1.2]" role="status">{mine.said || asCropped}</span>
  </div>
</section>
<section class="column flex-none" aria-label="Hold back">
  {#if beside}<h2>Hold back</h2>{/if}
  {#each ANGLES as { name, held } (name)}
    <SettingControl
      {bench}
      step="lines"
      name={held}
      label={beside ? LABELS[name] : 'Hold back'}
      spoken={`Hold back ${name}`}
      idle={off ?? (lines[name] === 0 ? `There is no ${name} to hold back.` : null)}
    />
  {/each}
  <div class="flex items-center gap-1.5">
    <Button
      color="light"
      disabled={off !== null || !holdsBack}
      {...hint(holdsBack ? 'Hold nothing back of any angle' : 'Nothing is held back')}
      onclick={() => makeFull(bench)}>Make it full</Button
    >
    <Button
      {...hint('Gives this correction to other frames of the same view')}
      color="light"
      disabled={ready.length < 2}
      onclick={() => (carrying = true)}>Carry over…</Button
    >
  </div>
</section>
<section class="column" aria-label="Place">
  {#each PLACE as name (name)}<SettingControl {bench} step="lines" {name} idle={off} />{/each}
</section>
<CarryDialog step="lines" bind:open={carrying} {bench} {job} {ready} />
