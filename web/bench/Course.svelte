<!-- The course: a column beside the sheet, or the head of the board; the working steps in order, and whether each is untouched, automatic, by hand or off. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { stepState } from '$core/recipe/step-state.ts';
  import { EVERY_STEP } from '$core/recipe/steps.ts';
  import { CHOICES, CHOICE_KEYS, CHOICE_SHAPES, type FrameChoiceName } from './state/choices.ts';
  import { nextStep } from './next-step.ts';
  import type { Bench } from './state/bench-state.svelte.ts';
  import { linesView } from './lines/lines-view.svelte.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    /** What the frame is in its job. */
    choice: FrameChoiceName;
    choose: (choice: FrameChoiceName) => void;
    /** As the head of the board: in two rows in place of one column. */
    head: boolean;
  }
  let { bench, choice, choose, head }: Props = $props();
  const next = $derived(
    nextStep(
      bench.recipe,
      {
        profileFound: bench.profile !== null,
        noLines: linesView(bench).noLines,
        plumb: bench.readings.plumb?.rms ?? null,
        level: bench.readings.level?.rms ?? null
      },
      bench.view.step
    )
  );
</script>

<div
  class={head
    ? 'flex-none border-b border-b-line bg-paper'
    : 'flex w-31 flex-none flex-col border-r border-r-line bg-paper'}
>
  <div class={head ? 'grid grid-cols-4 gap-y-0.5 px-1.5 pt-1.5 pb-1' : 'contents'}>
    <ol class={head ? 'contents' : 'py-2.5'} class:rail={!head} role="list" aria-label="Course">
      {#each EVERY_STEP as { name, schema }, i (name)}
        {@const { label } = schema.properties.enabled}
        {@const state = stepState(bench.recipe, name, { profileFound: bench.profile !== null })}
        <li class="relative flex min-w-0 items-center">
          <Button
            color="alternative"
            class={`ghost group flex h-auto min-w-0 flex-1 border-0 text-left ${
              head ? 'flex-col items-start gap-0 px-0.5 py-0.5' : 'items-center gap-2 py-2.25 pr-0 pl-2.5'
            }`}
            aria-current={bench.view.step === name ? 'step' : undefined}
            onclick={() => (bench.view.step = name)}
          >
            {#if head}
              <span class="flex items-center gap-1">{@render number(i + 1)}{@render named(label)}</span>
              {@render stated(name, state)}
            {:else}
              {@render number(i + 1)}
              <span class="flex min-w-0 flex-col leading-[1.2]"
                >{@render named(label)}{@render stated(name, state)}</span
              >
            {/if}
          </Button>
          <Button
            color="alternative"
            class={`ghost h-6 w-6 flex-none border-0 p-0 ${head ? 'absolute top-0.5 right-0 justify-end! pr-0.5' : 'mr-0.75'}`}
            role="switch"
            aria-checked={bench.recipe[name].enabled}
            aria-label={`${label} on or off`}
            {...hint(bench.recipe[name].enabled ? `Switch ${label} off` : `Switch ${label} on`)}
            onclick={() => bench.change(name, { enabled: !bench.recipe[name].enabled })}
            ><span class={['switch rounded-[2px] border border-faint', head ? 'h-3.5 w-2.5' : 'h-5 w-3']}
            ></span></Button
          >
        </li>
      {/each}
    </ol>
    {#if !head}
      {@render guide()}
      {@render chosen()}
    {/if}
  </div>
  {#if head}
    <div class="flex items-center gap-2 px-2.5 pb-1">
      {@render guide()}
      {@render chosen()}
    </div>
  {/if}
</div>

{#snippet chosen()}
  <div
    class={['flex', head ? 'flex-none items-center' : 'flex-col gap-0.5 p-2']}
    role="group"
    aria-label="What this frame is in its job"
  >
    {#each CHOICES as name (name)}
      <Button
        color="alternative"
        class={`ghost border-0 text-sm text-faint aria-pressed:bg-panel! aria-pressed:font-semibold aria-pressed:text-ink ${
          head ? 'h-6 gap-0.5 px-1 py-0' : 'h-6 px-2 py-0'
        }`}
        aria-pressed={choice === name}
        {...hint(`This frame is ${name} (${CHOICE_KEYS[name].toUpperCase()})`)}
        onclick={() => choose(name)}
        ><span class="w-3.5" aria-hidden="true">{CHOICE_SHAPES[name]}</span>{name}</Button
      >
    {/each}
  </div>
{/snippet}

{#snippet number(n: number)}
  <span
    class="z-1 grid h-5.25 w-5.25 flex-none place-items-center rounded-full border border-ink bg-panel text-sm group-aria-[current=step]:border-accent group-aria-[current=step]:bg-accent group-aria-[current=step]:text-white dark:group-aria-[current=step]:text-black"
    >{n}</span
  >
{/snippet}
{#snippet named(label: string)}
  <span class="font-medium group-aria-[current=step]:font-semibold">{label}</span>
{/snippet}
{#snippet stated(name: string, state: string)}
  <span class={['text-xs text-faint', head && 'pl-6.25 leading-none']} data-testid={`state-${name}`}
    >{state}</span
  >
{/snippet}
{#snippet guide()}
  <p
    class={['text-xs leading-[1.35] text-faint', head ? 'min-w-0 flex-1 truncate' : 'flex-1 px-2.5']}
    {...hint(next)}
    data-testid="next-step"
  >
    {next}
  </p>
{/snippet}

<style>
  .rail li + li::before {
    content: '';
    position: absolute;
    left: 20px;
    top: -8px;
    height: 16px;
    border-left: 1px solid var(--line);
  }
</style>
