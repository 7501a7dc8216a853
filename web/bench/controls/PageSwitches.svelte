<!-- What can be done to a page of a step as a whole: off and on again, back to neutral, or into an area; and to its step. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { type StepName, stepByName, stepLabel } from '$core/recipe/steps.ts';
  import { switched, touchedOf, withNeutral, withNeutralStep } from '$core/recipe/switched-off.ts';
  import { CAN_MOVE, movable, withShape } from '$core/recipe/give-shape.ts';
  import { MOST_AREAS } from '$core/steps/areas/step.ts';
  import { switchesOf } from '$core/recipe/switches.ts';
  import { touchedSettings } from '$core/settings/step.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';

  interface Props {
    bench: Bench;
    step: StepName;
    /** Groups of settings that the page holds. */
    groups: readonly string[];
    /** What the page is called. */
    page: string;
    class?: string;
  }
  let { bench, step, groups, page, class: own = '' }: Props = $props();
  const names = $derived(switchesOf(step, groups));
  const set = $derived(touchedOf(bench.recipe, names));
  const off = $derived(set.length > 0 && set.every((name) => bench.recipe.off.includes(name)));
  const stepSet = $derived(touchedSettings(stepByName(step)!.schema, bench.recipe[step]).length > 0);
  const moved = $derived(movable(bench.recipe, names));
  /** Whether an area could do any of what the page holds. */
  const takesShape = $derived(names.some((name) => CAN_MOVE.has(name)));
  const full = $derived(bench.recipe.areas.list.length >= MOST_AREAS);
  function giveShape(): void {
    bench.become((recipe) => withShape(recipe, moved, crypto.randomUUID().slice(0, 8)));
    bench.view.step = 'areas';
  }
  const look =
    'ghost h-6 min-w-6 flex-auto border-0 px-0.5 text-xs aria-pressed:bg-ink aria-pressed:text-panel';
</script>

<div class={['flex gap-1.5', own]} role="group" aria-label={`The page ${page}`}>
  <Button
    color="alternative"
    class={look}
    aria-label={`${page}, all of the page, off`}
    aria-pressed={off}
    disabled={set.length === 0}
    {...hint(
      set.length === 0
        ? 'Nothing is set on this page'
        : off
          ? 'All of this page on again'
          : 'All of this page off: what is set stays, and can be compared with'
    )}
    onclick={() => bench.become((recipe) => switched(recipe, set, !off))}>off</Button
  >
  <Button
    color="alternative"
    class={look}
    aria-label={`${page}, all of the page, back to neutral`}
    disabled={set.length === 0}
    {...hint(set.length === 0 ? 'Nothing is set on this page' : 'All of this page back to neutral')}
    onclick={() => bench.become((recipe) => switched(withNeutral(recipe, names), names, false))}
    >neutral</Button
  >
  {#if takesShape}
    <Button
      color="alternative"
      class={look}
      aria-label={`${page}: give it a shape`}
      disabled={moved.length === 0 || full}
      {...hint(
        full
          ? `A frame has ${MOST_AREAS} areas at most: remove one first`
          : moved.length === 0
            ? 'Nothing is set on this page that an area could do'
            : 'Moves what is set on this page into a new area: draw next where it is to act'
      )}
      onclick={giveShape}>shape</Button
    >
  {/if}
  <Button
    color="alternative"
    class={look}
    aria-label={`All of ${stepLabel(step)} back to neutral`}
    disabled={!stepSet}
    {...hint(`All pages of ${stepLabel(step)} back to neutral`)}
    onclick={() => bench.become((recipe) => withNeutralStep(recipe, step))}>↺</Button
  >
</div>
