<!-- Frames in lines, as many as the window is wide for. Only the lines that are seen are in the page. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { FrameCard } from '$server/set/frame-card.ts';
  import { FRAME, GAP, columnsIn, gridLines } from './grid-lines.ts';
  import type { CardGroup } from './set-order.ts';

  let { groups, tile }: { groups: readonly CardGroup[]; tile: Snippet<[FrameCard]> } = $props();
  /** Pixels beyond what is seen for which lines are kept. */
  const BEYOND = 2 * (FRAME.height + GAP);
  let grid: HTMLElement;
  let width = $state(1224);
  let scrolled = $state(0);
  let seen = $state(800);
  const columns = $derived(columnsIn(width));
  const laid = $derived(gridLines(groups, columns));
  const shown = $derived(
    laid.lines.filter(({ top, height }) => top + height > scrolled - BEYOND && top < scrolled + seen + BEYOND)
  );

  function look(): void {
    scrolled = -grid.getBoundingClientRect().top;
  }
</script>

<svelte:window bind:innerHeight={seen} onscroll={look} />
<div class="relative" bind:this={grid} bind:clientWidth={width} style:height={`${laid.height}px`}>
  {#each shown as { key, top, title, cards } (key)}
    <div class="absolute inset-x-0" style:transform={`translateY(${top}px)`}>
      {#if title !== null}
        <h2 class="border-b border-b-line text-lg">{title}</h2>
      {:else}
        <ul
          class="grid"
          style:gap={`${GAP}px`}
          style:grid-template-columns={`repeat(${columns}, minmax(0, 1fr))`}
          style:grid-auto-rows={`${FRAME.height}px`}
        >
          {#each cards as card (card.frame.id)}{@render tile(card)}{/each}
        </ul>
      {/if}
    </div>
  {/each}
</div>
