<!-- Carries chosen steps of this frame over to chosen others of the job. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { Button, Checkbox, Modal } from 'flowbite-svelte';
  import { offeredSteps } from '$core/recipe/house-settings.ts';
  import { type CarriedPart } from '$core/recipe/carry-over.ts';
  import { EVERY_STEP, type StepName, stepLabel } from '$core/recipe/steps.ts';
  import type { Job } from '$server/jobs/jobs.ts';
  import FrameChoices from '../parts/FrameChoices.svelte';
  import { carryOver } from '../parts/carry-over.ts';
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
      for (const name of offeredSteps(bench.recipe)) toggleStep(name, true);
    });
  });
  const toggle = <T,>(set: SvelteSet<T>, value: T, on: boolean): void =>
    void (on ? set.add(value) : set.delete(value));

  const groupsOf = (step: StepName): CarriedPart[] =>
    EVERY_STEP.find(({ name }) => name === step)!.carries.groups.map(
      ({ name }): CarriedPart => `${step}.${name}`
    );
  /** A step that has groups is carried over as a whole where all of them are. */
  function toggleStep(step: StepName, on: boolean): void {
    for (const part of [step, ...groupsOf(step)]) toggle(parts, part, on);
  }
  function toggleGroup(step: StepName, group: CarriedPart, on: boolean): void {
    toggle(parts, group, on);
    toggle(
      parts,
      step as CarriedPart,
      groupsOf(step).every((each) => parts.has(each))
    );
  }
  /** What is sent: groups stand for themselves where their step is not carried as a whole. */
  const wanted = $derived(
    [...parts].filter((part) => !part.includes('.') || !parts.has(part.split('.')[0] as StepName))
  );

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
  <div class="flex flex-col gap-1" role="group" aria-label="Steps to carry over">
    {#each EVERY_STEP as { name, carries } (name)}
      <div class="grid grid-cols-[96px_1fr] items-start">
        <Checkbox
          checked={parts.has(name)}
          onchange={(event) => toggleStep(name, event.currentTarget.checked)}>{stepLabel(name)}</Checkbox
        >
        <div class="flex flex-wrap gap-x-3">
          {#each carries.groups as group (group.name)}
            <Checkbox
              class="quiet"
              checked={parts.has(`${name}.${group.name}`)}
              onchange={(event) => toggleGroup(name, `${name}.${group.name}`, event.currentTarget.checked)}
              >{group.label}</Checkbox
            >
          {/each}
        </div>
      </div>
    {/each}
  </div>
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
