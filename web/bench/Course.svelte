<!-- The course: the working steps in order, and whether each is untouched, automatic, by hand or off. -->
<script lang="ts">
  import { stepState } from '$core/recipe/step-state.ts';
  import { EVERY_STEP } from '$core/recipe/steps.ts';
  import type { Bench } from './bench-state.svelte.ts';

  let { bench }: { bench: Bench } = $props();
</script>

<ol class="course" aria-label="Course">
  {#each EVERY_STEP as { name, schema }, i (name)}
    {@const { label } = schema.properties.enabled}
    {@const state = stepState(bench.recipe, name, { profileFound: bench.profile !== null })}
    <li>
      <button
        class="step"
        aria-current={bench.view.step === name ? 'step' : undefined}
        onclick={() => (bench.view.step = name)}
      >
        <span class="number">{i + 1}</span>
        <span class="words">
          <span class="label">{label}</span>
          <span class="state" data-testid={`state-${name}`}>{state}</span>
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
  .course {
    width: 116px;
    padding: 10px 0;
    border-right: 1px solid var(--line);
    background: var(--paper);
  }
  li {
    display: flex;
    align-items: center;
    position: relative;
  }
  li + li::before {
    content: '';
    position: absolute;
    left: 20px;
    top: -8px;
    height: 16px;
    border-left: 1px solid var(--line);
  }
  .step {
    display: flex;
    flex: 1;
    gap: 8px;
    align-items: center;
    padding: 9px 0 9px 10px;
    text-align: left;
  }
  .number {
    width: 21px;
    height: 21px;
    border: 1px solid var(--ink);
    border-radius: 50%;
    display: grid;
    place-items: center;
    font-size: 12px;
    background: var(--panel);
    z-index: 1;
  }
  .words {
    display: flex;
    flex-direction: column;
    line-height: 1.2;
  }
  .label {
    font-weight: 500;
  }
  .state {
    font-size: 11px;
    color: var(--faint);
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
