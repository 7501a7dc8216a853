<!-- Holds a fine tool: as large as the board beside the sheet, or small on the deck below, from where it grows over the sheet at a press. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { Button } from 'flowbite-svelte';
  import { roomInHand } from './room-state.svelte.ts';
  import { INDEX, READINGS, type Size } from './share-room.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    /** What it is, for its press. */
    name: string;
    /** Size on the deck below. */
    small: Size;
    /** As high as wide where it is large, beside the sheet up to so many pixels where that is said. */
    square?: boolean | number;
    /** Where the press that makes it large stands. */
    corner?: 'left' | 'right';
    /** A list grows as a tool does, but is only as high as what it lists. */
    holds?: 'tool' | 'list';
    tool: Snippet<[Size]>;
  }
  let { name, small, square = false, corner = 'left', holds = 'tool', tool }: Props = $props();
  const room = roomInHand();
  /** Shorter side of a tool in use. */
  const LARGE = 264;
  const WIDE = 560;
  const SQUARE = 272;
  let grown = $state(false);
  let width = $state(0);
  const beside = $derived(room.beside);
  const size = $derived<Size>(
    beside
      ? {
          width: Math.max(LARGE, width),
          height: square ? Math.min(square === true ? SQUARE : square, Math.max(LARGE, width)) : LARGE
        }
      : grown
        ? { width: square ? LARGE + 56 : WIDE, height: square ? LARGE + 56 : LARGE }
        : small
  );
  /** A wide one lies over the picture, away from where the pointer works on it; a square one has its own place beside. */
  const right = $derived(room.pointerLeft);
  const PADDING = 12;
  $effect(() => {
    if (!square || !grown || beside) return;
    room.besideSheet = size.width + 2 * PADDING + 2;
    return () => (room.besideSheet = 0);
  });
</script>

<div class={['relative min-w-0 flex-none', beside && 'self-stretch']} bind:clientWidth={width}>
  <div
    class={[
      !beside && grown && 'fixed z-20 border border-line bg-panel p-3 shadow-xl',
      !beside && grown && (square ? 'right-0' : right ? 'right-26' : 'left-38')
    ]}
    style:bottom={!beside && grown ? `${room.dragged.below + READINGS + (square ? 0 : 12)}px` : undefined}
    style:right={!beside && grown && square && room.layout.index === 'aside' ? `${INDEX.aside}px` : undefined}
    data-testid={`fine-${holds}`}
    data-grown={grown && !beside}
  >
    {@render tool(size)}
    {#if grown && !beside}
      <Button color="light" class="mt-2 h-6" aria-expanded={true} onclick={() => (grown = false)}
        >Small</Button
      >
    {/if}
  </div>
  {#if !beside}
    <Button
      color="alternative"
      class={[
        'ghost absolute top-0 h-6 justify-center! border-0 p-0 text-faint disabled:invisible',
        corner === 'left' ? 'left-0 w-6' : 'right-0 w-4'
      ].join(' ')}
      aria-expanded={grown}
      aria-label={`Make ${name} large`}
      {...hint(`${name} large, over the sheet`)}
      disabled={grown}
      onclick={() => (grown = true)}>⤢</Button
    >
  {/if}
</div>
