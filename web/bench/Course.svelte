<!-- The course: the working steps in order, and whether each is untouched, automatic, by hand or off. -->
<script lang="ts">
  import { stepState } from '$core/recipe/step-state.ts';
  import { EVERY_STEP } from '$core/recipe/steps.ts';
  import type { Bench } from './bench-state.svelte.ts';

  let { bench }: { bench: Bench } = $props();
</script>

<ol class="w-29 py-2.5 px-0 border-r border-r-line bg-paper" aria-label="Course">
  {#each EVERY_STEP as { name, schema }, i (name)}
    {@const { label } = schema.properties.enabled}
    {@const state = stepState(bench.recipe, name, { profileFound: bench.profile !== null })}
    <li class="flex items-center relative">
      <button
        class="flex flex-1 gap-2 items-center pt-2.25 pr-0 pb-2.25 pl-2.5 text-left"
        aria-current={bench.view.step === name ? 'step' : undefined}
        onclick={() => (bench.view.step = name)}
      >
        <span
          class="number w-5.25 h-5.25 border border-ink rounded-full grid place-items-center text-sm bg-panel z-1"
          >{i + 1}</span
        >
        <span class="flex flex-col leading-[1.2]">
          <span class="label font-medium">{label}</span>
          <span class="text-xs text-faint" data-testid={`state-${name}`}>{state}</span>
        </span>
      </button>
      <button
        class="switch"
        role="switch"
        aria-checked={bench.recipe[name].enabled}
        aria-label={`${label} on or off`}
        title={bench.recipe[name].enabled ? `Switch ${label} off` : `Switch ${label} on`}
        onclick={() => bench.change(name, { enabled: !bench.recipe[name].enabled })}
      ></button>
    </li>
  {/each}
</ol>

<style>
  li + li::before {
    content: '';
    position: absolute;
    left: 20px;
    top: -8px;
    height: 16px;
    border-left: 1px solid var(--line);
  }
  [aria-current='step'] .number {
    background: var(--accent);
    border-color: var(--accent);
    color: #fff;
  }
  [aria-current='step'] .label {
    font-weight: 600;
  }
  .switch {
    width: 12px;
    height: 20px;
    margin-right: 9px;
    border: 1px solid var(--faint);
    border-radius: 2px;
    background: linear-gradient(var(--panel) 50%, var(--soft) 50%);
  }
  .switch[aria-checked='true'] {
    background: linear-gradient(var(--ink) 50%, var(--panel) 50%);
  }
</style>
