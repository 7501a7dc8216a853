<!-- A grid over the sheet, from the crop's corner, drawn light on dark. -->
<script lang="ts">
  import { Line } from 'svelte-konva';
  import type { SheetSize } from './sheet-view.ts';

  interface Props {
    size: SheetSize;
    /** The crop on the sheet. */
    box: { left: number; top: number; width: number };
  }
  let { size, box }: Props = $props();
  /** Fields across the crop, and the least pixels between lines. */
  const FIELDS = 12;
  const LEAST = 24;
  const lines = $derived.by(() => {
    const step = Math.max(LEAST, box.width / FIELDS);
    const first = (zero: number): number => ((zero % step) + step) % step;
    const found: number[][] = [];
    for (let x = first(box.left); x < size.width; x += step) found.push([x, 0, x, size.height]);
    for (let y = first(box.top); y < size.height; y += step) found.push([0, y, size.width, y]);
    return found;
  });
</script>

{#each lines as points, i (i)}
  <Line {points} stroke="#111" strokeWidth={1.8} opacity={0.22} />
  <Line {points} stroke="#fff" strokeWidth={0.7} opacity={0.7} />
{/each}
