<!-- The crop on the sheet: the surroundings veiled, its guide, and handles at corners, edges and inside. -->
<script lang="ts">
  import { Group, Line, Rect } from 'svelte-konva';
  import type { Point } from '$core/math/frame-geometry.ts';
  import { type CropHandle, moveCrop, resizeCrop } from '$core/steps/crop/resize-crop.ts';
  import { ratioValue } from '$core/picture/output/ratios.ts';
  import { guideShares, snapHandle, snapMoved } from '$core/steps/crop/snap-crop.ts';
  import SheetText from '../sheet/SheetText.svelte';
  import { placeCrop, printSize, snapTargets } from './crop-view.ts';
  import type { Rectangle } from '$core/steps/crop/rectangle.ts';
  import type { View } from '$core/picture/tile/mesh.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { toSheet, toUpright } from '../sheet/sheet-view.ts';
  import { CROP_HANDLES, HANDLE_IN, HANDLE_OUT } from './crop-handles.ts';
  import { cropView } from './crop-view.svelte.ts';

  let { bench, view, editable }: { bench: Bench; view: View; editable: boolean } = $props();
  const mine = $derived(cropView(bench));
  const crop = $derived(bench.plan.crop);
  const corner = $derived(toSheet([crop.x - crop.width / 2, crop.y - crop.height / 2], view));
  const size = $derived([crop.width / view.pixel, crop.height / view.pixel]);
  /** The crop when the drag began: each move starts from it, so that rounding does not add up. */
  let start: Rectangle | null = null;

  function apply(rectangle: Rectangle, done: boolean): void {
    placeCrop(bench, rectangle, !done);
    if (done) start = null;
  }

  /** Snapping reaches this far, in screen pixels. */
  const REACH = 7;
  const reach = $derived(mine.snap ? REACH * view.pixel : 0);
  const valid = $derived(bench.recipe.crop.blank ? null : bench.plan.valid);

  function resize(handle: CropHandle, at: Point, done: boolean): void {
    start ??= crop;
    const ratio = ratioValue(bench.recipe.crop.ratio, bench.optics.size);
    const to = snapHandle(handle, toUpright(at, view), snapTargets(bench), reach);
    apply(resizeCrop(start, handle, to, ratio, valid), done);
  }

  function move(at: Point, done: boolean): void {
    start ??= crop;
    const [x, y] = toUpright([at[0] + size[0] / 2, at[1] + size[1] / 2], view);
    const wanted = snapMoved({ ...start, x, y }, snapTargets(bench), mine.guide, reach);
    apply(moveCrop(start, [wanted.x, wanted.y], valid), done);
  }

  const guideLines = $derived.by(() => {
    const [left, top] = corner;
    const [width, height] = size;
    const { guide } = mine;
    if (guide === 'diagonals') {
      const side = Math.min(width, height);
      // The bisectors of the corners, where many compositions rest.
      return [
        [left, top, left + side, top + side],
        [left + width, top, left + width - side, top + side],
        [left, top + height, left + side, top + height - side],
        [left + width, top + height, left + width - side, top + height - side]
      ];
    }
    return guideShares(guide).flatMap((share) => [
      [left + width * share, top, left + width * share, top + height],
      [left, top + height * share, left + width, top + height * share]
    ]);
  });
  const sizeText = $derived.by(() => {
    const { width, height } = bench.plan.output;
    const { cm } = printSize({ width, height }, mine.ppi);
    return `${width} × ${height} px · sampling ${bench.readings.sampling.toFixed(2)} · ${cm} at ${mine.ppi} ppi`;
  });

  const veil = $derived([
    { x: 0, y: 0, width: view.width, height: corner[1] },
    { x: 0, y: corner[1] + size[1], width: view.width, height: view.height - corner[1] - size[1] },
    { x: 0, y: corner[1], width: corner[0], height: size[1] },
    { x: corner[0] + size[0], y: corner[1], width: view.width - corner[0] - size[0], height: size[1] }
  ]);
</script>

{#each veil as part, i (i)}
  {#if part.width > 0 && part.height > 0}
    <Rect {...part} fill="#777" opacity={editable ? 0.62 : 0.35} listening={false} />
  {/if}
{/each}
<Rect
  x={corner[0]}
  y={corner[1]}
  width={size[0]}
  height={size[1]}
  stroke="#111"
  strokeWidth={3}
  opacity={0.6}
  listening={false}
/>
<Rect
  x={corner[0]}
  y={corner[1]}
  width={size[0]}
  height={size[1]}
  stroke="#fff"
  strokeWidth={1}
  listening={false}
/>
{#if editable}
  <Rect
    x={corner[0]}
    y={corner[1]}
    width={size[0]}
    height={size[1]}
    fill="transparent"
    draggable
    ondragmove={(e) => {
      move([e.target.x(), e.target.y()], false);
      e.target.position({ x: corner[0], y: corner[1] });
    }}
    ondragend={(e) => {
      e.target.position({ x: corner[0], y: corner[1] });
      bench.commit();
      start = null;
    }}
  />
  <Group listening={false}>
    {#each guideLines as points, i (i)}
      <Line {points} stroke="#111" strokeWidth={1.9} opacity={0.25} />
      <Line {points} stroke="#fff" strokeWidth={0.65} opacity={0.8} />
    {/each}
    {#if bench.view.moving}
      <SheetText x={corner[0] + 8} y={corner[1] + 8} text={sizeText} />
    {/if}
  </Group>
  {#each CROP_HANDLES as handle (`${handle.x} ${handle.y}`)}
    {@const x = corner[0] + ((handle.x + 1) / 2) * size[0]}
    {@const y = corner[1] + ((handle.y + 1) / 2) * size[1]}
    <Rect
      {x}
      {y}
      offsetX={5}
      offsetY={5}
      width={10}
      height={10}
      fill="#fff"
      stroke="#111"
      strokeWidth={1.5}
      hitFunc={(context, shape) => {
        const [left, right] = [handle.x < 0, handle.x > 0];
        const [above, below] = [handle.y < 0, handle.y > 0];
        const reach = (out: boolean): number => (out ? HANDLE_OUT : HANDLE_IN);
        context.beginPath();
        context.rect(
          5 - reach(left),
          5 - reach(above),
          reach(left) + reach(right),
          reach(above) + reach(below)
        );
        context.closePath();
        context.fillStrokeShape(shape);
      }}
      draggable
      ondragmove={(e) => {
        resize(handle, [e.target.x(), e.target.y()], false);
        e.target.position({ x, y });
      }}
      ondragend={(e) => {
        e.target.position({ x, y });
        bench.commit();
        start = null;
      }}
    />
  {/each}
{/if}
