<!-- Carries chosen steps of this frame over to chosen others of the job. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { Button, Checkbox, Modal } from 'flowbite-svelte';
  import { offeredSteps } from '$core/recipe/house-settings.ts';
  import { type CarriedPart } from '$core/recipe/carry-over.ts';
  import type { Job } from '$server/jobs/jobs.ts';
  import FrameChoices from '../parts/FrameChoices.svelte';
  import { carryOver } from '../parts/carry-over.ts';
  import PartChoices from '../parts/PartChoices.svelte';
  import { chosenParts, toggleStep } from '../parts/chosen-parts.ts';
  import type { OtherFrame } from '../parts/step-parts.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';

  interface Props {
    open: boolean;
    bench: Bench;
    job: Job;
    ready: readonly OtherFrame[];
  }
  let { open = $bindable(), bench, job, ready }: Props = $props();
  const parts = new SvelteSet<CarriedPart>();
  const frames = new SvelteSet<string>();
  let said = $state('');
  const others = $derived(ready.filter(({ id }) => id !== bench.frame.id));
  $effect(() => {
    if (!open) return;
    untrack(() => {
      said = '';
      frames.clear();
      parts.clear();
      for (const name of offeredSteps(bench.recipe)) toggleStep(parts, name, true);
    });
  });
  const toggle = <T,>(set: SvelteSet<T>, value: T, on: boolean): void =>
    void (on ? set.add(value) : set.delete(value));

  const wanted = $derived(chosenParts(parts));

  async function carry(): Promise<void> {
    try {
      await carryOver(bench, job, {
        steps: wanted,
        to: [...frames],
        done: 'What belongs to their own picture stays.'
      });
      open = false;
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
</script>

<Modal title="Carry steps over" bind:open size="md">
  <PartChoices {parts} label="Steps to carry over" />
  <Checkbox
    checked={others.length > 0 && frames.size === others.length}
    onchange={(event) => others.forEach(({ id }) => toggle(frames, id, event.currentTarget.checked))}
    >All frames of {job.name}</Checkbox
  >
  <FrameChoices frames={others} chosen={frames} />
  <div class="foot flex items-center gap-2.5">
    <Button disabled={frames.size === 0 || wanted.length === 0} onclick={carry}
      >Carry over to {frames.size}</Button
    >
    <span role="status">{said}</span>
  </div>
</Modal>
