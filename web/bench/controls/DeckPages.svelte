<!-- Names of a step's pages, one under the other: arrows, Home and End turn between them. -->
<script lang="ts" generics="P extends string">
  import { Button } from 'flowbite-svelte';

  interface Props {
    label: string;
    pages: readonly { page: P; label: string }[];
    current: P;
    turnTo: (page: P) => void;
  }
  let { label: name, pages, current, turnTo }: Props = $props();
  let list: HTMLElement;
  /** The more pages, the closer: all are to be seen. */
  const PADDING: Record<number, string> = { 5: 'py-0.75', 6: 'py-0.25', 7: 'py-0 leading-[1.3]' };

  function keydown(event: KeyboardEvent): void {
    const at = pages.findIndex(({ page }) => page === current);
    const last = pages.length - 1;
    const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: last }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    const { page } = pages[(to + pages.length) % pages.length];
    turnTo(page);
    list.querySelector<HTMLElement>(`[data-page="${page}"]`)?.focus();
  }
</script>

<div
  class="flex flex-[0_0_116px] flex-col border-r border-r-line py-2"
  role="tablist"
  aria-label={name}
  aria-orientation="vertical"
  tabindex={-1}
  bind:this={list}
  onkeydown={keydown}
>
  {#each pages as { page, label } (page)}
    <Button
      color="alternative"
      class="ghost h-auto rounded-none border-0 border-l-3 border-l-transparent px-2.5 {PADDING[
        Math.min(7, pages.length)
      ] ?? 'py-1.5'} aria-selected:border-l-accent! aria-selected:bg-panel! aria-selected:font-semibold"
      role="tab"
      data-page={page}
      tabindex={current === page ? 0 : -1}
      aria-selected={current === page}
      onclick={() => turnTo(page)}>{label}</Button
    >
  {/each}
</div>
