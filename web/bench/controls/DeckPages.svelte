<!-- Names of a step's pages, one under the other, or in a row on the board: arrows, Home and End turn between them. -->
<script lang="ts" generics="P extends string">
  import { Button } from 'flowbite-svelte';
  import type { StepName } from '$core/recipe/steps.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import PageSwitches from './PageSwitches.svelte';
  import { roomInHand } from '../room/room-state.svelte.ts';

  interface Props {
    label: string;
    pages: readonly { page: P; label: string }[];
    current: P;
    turnTo: (page: P) => void;
    /** Where what a page holds can be switched off as a whole: of which step its settings are, and in which groups. */
    of?: { bench: Bench; step: StepName; groups?: readonly string[] };
  }
  let { label: name, pages, current, turnTo, of }: Props = $props();
  let list: HTMLElement;
  const room = roomInHand();
  const beside = $derived(room.beside);
  /** More than stand at their usual size in one row, or in the height of the deck. */
  const many = $derived(pages.length > (of ? 6 : 7));
  const most = $derived(pages.length > 8);
  const full = $derived(pages.length > 9);

  function keydown(event: KeyboardEvent): void {
    const at = pages.findIndex(({ page }) => page === current);
    const last = pages.length - 1;
    const to = {
      ArrowDown: at + 1,
      ArrowRight: at + 1,
      ArrowUp: at - 1,
      ArrowLeft: at - 1,
      Home: 0,
      End: last
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    const { page } = pages[(to + pages.length) % pages.length];
    turnTo(page);
    list.querySelector<HTMLElement>(`[data-page="${page}"]`)?.focus();
  }
</script>

<div
  class={[
    'flex border-line',
    beside
      ? 'flex-none flex-wrap items-center border-b px-2 pt-1'
      : 'flex-[0_0_116px] flex-col border-r py-1.5'
  ]}
>
  <div
    class={['flex', beside ? 'flex-wrap' : 'flex-col']}
    role="tablist"
    aria-label={name}
    aria-orientation={beside ? 'horizontal' : 'vertical'}
    tabindex={-1}
    bind:this={list}
    onkeydown={keydown}
  >
    {#each pages as { page, label } (page)}
      <Button
        color="alternative"
        class={`ghost rounded-none border-0 aria-selected:bg-panel! aria-selected:font-semibold ${
          beside
            ? `h-6.5 border-b-3 border-b-transparent aria-selected:border-b-accent! ${full ? 'px-0.5 text-xs' : most ? 'px-0.5 text-sm' : many ? 'px-1 text-sm' : pages.length > 5 ? 'px-1' : 'px-1.75'}`
            : `${full ? 'h-3.5 text-sm leading-none' : most ? 'h-4 leading-none' : many ? 'h-4.5' : 'h-5'} border-l-3 border-l-transparent px-2.5 aria-selected:border-l-accent!`
        }`}
        role="tab"
        data-page={page}
        tabindex={current === page ? 0 : -1}
        aria-selected={current === page}
        onclick={() => turnTo(page)}>{label}</Button
      >
    {/each}
  </div>
  {#if of}
    <PageSwitches
      bench={of.bench}
      step={of.step}
      groups={of.groups ?? [current]}
      page={pages.find(({ page }) => page === current)!.label}
      class={beside ? 'ml-auto' : 'mt-auto px-1'}
    />
  {/if}
</div>
