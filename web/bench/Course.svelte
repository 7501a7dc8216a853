<!-- The course: the working steps in order, and whether each is untouched, automatic, by hand or off. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { stepState } from '$core/recipe/step-state.ts';
  import { EVERY_STEP } from '$core/recipe/steps.ts';
  import { CHOICES, CHOICE_KEYS, CHOICE_SHAPES, type FrameChoiceName } from './state/choices.ts';
  import { nextStep } from './next-step.ts';
  import type { Bench } from './state/bench-state.svelte.ts';
  import { linesView } from './lines/lines-view.svelte.ts';

  interface Props {
    bench: Bench;
    /** What the frame is in its job. */
    choice: FrameChoiceName;
    choose: (choice: FrameChoiceName) => void;
  }
  let { bench, choice, choose }: Props = $props();
  const next = $derived(
    nextStep(bench.recipe, { profileFound: bench.profile !== null, noLines: linesView(bench).noLines })
  );
</script>

<div class="flex w-31 flex-none flex-col border-r border-r-line bg-paper">
  <ol class="py-2.5 px-0" aria-label="Course">
    {#each EVERY_STEP as { name, schema }, i (name)}
      {@const { label } = schema.properties.enabled}
      {@const state = stepState(bench.recipe, name, { profileFound: bench.profile !== null })}
      <li class="flex items-center relative">
        <Button
          color="alternative"
          class="ghost h-auto group border-0 flex flex-1 gap-2 items-center pt-2.25 pr-0 pb-2.25 pl-2.5 text-left"
          aria-current={bench.view.step === name ? 'step' : undefined}
          onclick={() => (bench.view.step = name)}
        >
          <span
            class="z-1 grid h-5.25 w-5.25 place-items-center rounded-full border border-ink bg-panel text-sm group-aria-[current=step]:border-accent group-aria-[current=step]:bg-accent group-aria-[current=step]:text-white dark:group-aria-[current=step]:text-black"
            >{i + 1}</span
          >
          <span class="flex flex-col leading-[1.2]">
            <span class="font-medium group-aria-[current=step]:font-semibold">{label}</span>
            <span class="text-xs text-faint" data-testid={`state-${name}`}>{state}</span>
          </span>
        </Button>
        <Button
          color="alternative"
          class="switch mr-2.25 h-5 w-3 flex-none rounded-[2px] border border-faint p-0"
          role="switch"
          aria-checked={bench.recipe[name].enabled}
          aria-label={`${label} on or off`}
          title={bench.recipe[name].enabled ? `Switch ${label} off` : `Switch ${label} on`}
          onclick={() => bench.change(name, { enabled: !bench.recipe[name].enabled })}
        ></Button>
      </li>
    {/each}
  </ol>
  <p class="flex-1 px-2.5 text-xs leading-[1.35] text-faint" data-testid="next-step">{next}</p>
  <div class="flex flex-col gap-0.5 p-2" role="group" aria-label="What this frame is in its job">
    {#each CHOICES as name (name)}
      <Button
        color="alternative"
        class="ghost h-auto border-0 px-2 py-0.5 text-sm text-faint aria-pressed:bg-panel! aria-pressed:font-semibold aria-pressed:text-ink"
        aria-pressed={choice === name}
        title={`This frame is ${name} (${CHOICE_KEYS[name].toUpperCase()})`}
        onclick={() => choose(name)}
        ><span class="w-3.5" aria-hidden="true">{CHOICE_SHAPES[name]}</span>{name}</Button
      >
    {/each}
  </div>
</div>

<style>
  li + li::before {
    content: '';
    position: absolute;
    left: 20px;
    top: -8px;
    height: 16px;
    border-left: 1px solid var(--line);
  }
</style>
