<!-- Carries a step of this frame over to others of the job. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { Button, Modal } from 'flowbite-svelte';
  import type { Job } from '$server/jobs/jobs.ts';
  import { exposureOf, isOfBracket } from '$core/optics/bracket.ts';
  import FrameChoices from './FrameChoices.svelte';
  import { carryOver } from './carry-over.ts';
  import type { OtherFrame } from './step-parts.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';

  interface Props {
    open: boolean;
    step: 'lens' | 'lines';
    bench: Bench;
    job: Job;
    ready: OtherFrame[];
  }
  let { open = $bindable(), step, bench, job, ready }: Props = $props();
  const chosen = new SvelteSet<string>();
  let said = $state('');
  const others = $derived(ready.filter((other) => other.id !== bench.frame.id));
  const sameLens = (other: OtherFrame): boolean =>
    other.lens === bench.facts.lens && other.focalLength === bench.facts.focalLength;
  /** Frames taken within a few minutes with the same lens may be of one bracket: the same view, exposed otherwise. */
  const sameView = (other: OtherFrame): boolean =>
    sameLens(other) && isOfBracket(other, { taken: bench.facts.taken, exposure: exposureOf(bench.facts) });
  const alike = $derived(step === 'lens' ? sameLens : sameView);
  const WORDS = {
    lens: {
      title: 'Carry the lens settings over',
      what: 'Those with the same lens and focal length are chosen.',
      done: 'Their own marks stay.'
    },
    lines: {
      title: 'Carry the correction over',
      what: 'Those that look like exposures of the same view are chosen.',
      done: 'They have its angles and its marks.'
    }
  };

  $effect(() => {
    if (!open) return;
    untrack(() => {
      said = '';
      chosen.clear();
      for (const other of others) if (alike(other)) chosen.add(other.id);
    });
  });

  async function carry(): Promise<void> {
    try {
      await carryOver(bench, job, { steps: [step], to: [...chosen], done: WORDS[step].done });
      open = false;
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
</script>

<Modal title={WORDS[step].title} bind:open size="sm">
  <p>
    Frames of {job.name} that get the {step === 'lens' ? 'Lens' : 'Lines'} step of {bench.frame.name}.
    {WORDS[step].what}
  </p>
  <FrameChoices frames={others} {chosen} />
  <div class="foot flex gap-2.5 items-center">
    <Button disabled={chosen.size === 0} onclick={carry}>Carry over to {chosen.size}</Button>
    <span role="status">{said}</span>
  </div>
</Modal>
