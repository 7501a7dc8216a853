<!-- The other picture that the sheet's is compared with: a state of the frame, or another frame by its recipe. -->
<script lang="ts">
  import type { Compare } from '../compare/compare-state.svelte.ts';
  import type { Placed } from './sheet-view.ts';

  interface Props {
    compare: Compare;
    /** Where its canvas lies, and where another frame's crop is to lie, in pixels of the sheet. */
    placed: Placed;
    box: Placed;
    canvas: HTMLCanvasElement | undefined;
    pixelated: boolean;
    /** Counts its pictures. */
    drawn: number;
  }
  let { compare, placed, box, canvas = $bindable(), pixelated, drawn }: Props = $props();
</script>

{#if compare.against.kind === 'frame'}
  <img
    class="pointer-events-none absolute max-w-none object-contain select-none"
    src={`/api/frames/${compare.against.id}/thumbnail?large`}
    alt={compare.against.name}
    style:left="{box.left}px"
    style:top="{box.top}px"
    style:width="{box.width}px"
    style:height="{box.height}px"
    data-testid="other-picture"
  />
{:else}
  <canvas
    class="absolute max-w-none origin-top-left"
    bind:this={canvas}
    style:left="{placed.left}px"
    style:top="{placed.top}px"
    style:width="{placed.width}px"
    style:height="{placed.height}px"
    style:image-rendering={pixelated ? 'pixelated' : 'auto'}
    data-testid="other-picture"
    data-drawn={drawn}
  ></canvas>
{/if}
