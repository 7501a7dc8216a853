<!-- Frames in rows, as many as the window is wide for. Only the rows that are seen are in the page. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { FrameCard } from '$server/set/frame-card.ts';

  let { cards, tile }: { cards: readonly FrameCard[]; tile: Snippet<[FrameCard]> } = $props();
  const LEAST = 280;
  const GAP = 18;
  const HEIGHT = 283;
  /** Rows kept beyond those that are seen. */
  const BEYOND = 2;
  let grid: HTMLElement;
  let width = $state(1224);
  let scrolled = $state(0);
  let seen = $state(800);
  const columns = $derived(Math.max(1, Math.floor((width + GAP) / (LEAST + GAP))));
  const rows = $derived(Math.ceil(cards.length / columns));
  const first = $derived(Math.max(0, Math.min(rows - 1, Math.floor(scrolled / (HEIGHT + GAP)) - BEYOND)));
  const count = $derived(Math.ceil(seen / (HEIGHT + GAP)) + 2 * BEYOND);
  const shown = $derived(cards.slice(first * columns, (first + count) * columns));

  function look(): void {
    scrolled = -grid.getBoundingClientRect().top;
  }
</script>

<svelte:window bind:innerHeight={seen} onscroll={look} />
<div bind:this={grid} bind:clientWidth={width} style:height={`${rows * (HEIGHT + GAP)}px`}>
  <ul
    class="grid"
    style:gap={`${GAP}px`}
    style:grid-template-columns={`repeat(${columns}, minmax(0, 1fr))`}
    style:grid-auto-rows={`${HEIGHT}px`}
    style:transform={`translateY(${first * (HEIGHT + GAP)}px)`}
  >
    {#each shown as card (card.frame.id)}{@render tile(card)}{/each}
  </ul>
</div>
