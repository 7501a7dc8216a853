<!-- The border over the sheet, as the file has it. -->
<script lang="ts">
  import { Group, Rect } from 'svelte-konva';
  import { borderedSize, hasBorder, layBorder } from '$core/steps/finish/border/border-layout.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { boxOnSheet } from '../sheet/sheet-view.ts';

  let { bench, sheet }: { bench: Bench; sheet: SheetState } = $props();
  const finish = $derived(bench.recipe.finish);
  const full = $derived(bench.plan.output);
  const whole = $derived(borderedSize(finish, full));
  const layout = $derived(layBorder(finish, full, whole));
  const box = $derived(boxOnSheet(bench.plan.crop, sheet.view));
  const scale = $derived(box.width / full.width);
  /** A rectangle of the file on the sheet, in the middle of a stroke along the border that is left between two of them. */
  const between = (
    outside: typeof layout.picture,
    inside: typeof layout.picture
  ): { x: number; y: number; width: number; height: number; strokeWidth: number } => {
    const thick = (inside.left - outside.left) * scale;
    return {
      x: box.left + (outside.left - layout.picture.left) * scale + thick / 2,
      y: box.top + (outside.top - layout.picture.top) * scale + thick / 2,
      width: (outside.right - outside.left) * scale - thick,
      height: (outside.bottom - outside.top) * scale - thick,
      strokeWidth: thick
    };
  };
  /** The four bars about the picture. */
  const bars = $derived.by(() => {
    const { picture } = layout;
    const [left, top] = [picture.left * scale, picture.top * scale];
    const [right, bottom] = [(whole.width - picture.right) * scale, (whole.height - picture.bottom) * scale];
    const [x, y] = [box.left - left, box.top - top];
    const width = left + box.width + right;
    return [
      { x, y, width, height: top },
      { x, y: box.top + box.height, width, height: bottom },
      { x, y: box.top, width: left, height: box.height },
      { x: box.left + box.width, y: box.top, width: right, height: box.height }
    ];
  });
</script>

<Group>
  {#if hasBorder(finish)}
    {#each bars as bar, i (i)}
      <Rect {...bar} fill={finish.borderColour} listening={false} />
    {/each}
    {#if layout.line}
      <Rect
        {...between(layout.line.outside, layout.line.inside)}
        stroke={finish.borderLineColour}
        listening={false}
      />
    {/if}
  {/if}
</Group>
