<!-- The darkened edge over the picture: where it begins, and its middle, which can be dragged. -->
<script lang="ts">
  import { Group, Line, RegularPolygon } from 'svelte-konva';
  import type { KonvaDragTransformEvent } from 'svelte-konva';
  import type { OverlayProps } from '../parts/step-parts.ts';
  import BorderShape from './BorderShape.svelte';
  import { edgeOf, middleOnSheet, moveMiddle, ringOnSheet } from './edge-middle.ts';
  import { finishView } from './finish-view.svelte.ts';

  let { bench, sheet }: OverlayProps = $props();
  const mine = $derived(finishView(bench));
  const edge = $derived(mine.page === 'edge' ? edgeOf(bench) : null);
  const middle = $derived(middleOnSheet(bench, sheet));
  const ring = $derived(
    edge && !bench.view.moving ? ringOnSheet(bench, sheet, edge, edge.from).flat() : null
  );
  const drag = (event: KonvaDragTransformEvent, moving: boolean): void =>
    moveMiddle(bench, sheet, [event.target.x(), event.target.y()], moving);
</script>

<BorderShape {bench} {sheet} />
<Group>
  {#if ring}
    <Line points={ring} closed stroke="#111" strokeWidth={3} opacity={0.65} listening={false} />
    <Line points={ring} closed stroke="#fff" strokeWidth={1} dash={[6, 5]} listening={false} />
  {/if}
  {#if edge}
    <RegularPolygon
      x={middle[0]}
      y={middle[1]}
      sides={6}
      radius={7}
      fill="#fff"
      stroke="#111"
      strokeWidth={1.5}
      hitStrokeWidth={16}
      draggable
      ondragmove={(event) => drag(event, true)}
      ondragend={(event) => drag(event, false)}
    />
  {/if}
</Group>
