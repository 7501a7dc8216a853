<!-- A straight mark: the edge as found, with squares at its ends; dashed while it is only offered. -->
<script lang="ts">
  import { Group, Line, Rect } from 'svelte-konva';
  import type { Point } from '$core/math/frame-geometry.ts';

  interface Props {
    points: Point[];
    lit: boolean;
    offered?: boolean;
    listening?: boolean;
    pressed: () => void;
    hovered: (inside: boolean) => void;
  }
  let { points, lit, offered = false, listening = true, pressed, hovered }: Props = $props();
  const flat = $derived(points.flat());
  const ends = $derived(points.length > 0 ? [points[0], points[points.length - 1]] : []);
  const SIZE = 9;
</script>

<Group
  onmouseenter={() => hovered(true)}
  onmouseleave={() => hovered(false)}
  onpointerdown={pressed}
  {listening}
>
  <Line
    points={flat}
    stroke="#111"
    strokeWidth={4}
    opacity={offered ? 0.5 : 0.75}
    dash={offered ? [7, 6] : []}
    hitStrokeWidth={14}
  />
  <Line
    points={flat}
    stroke={lit ? '#e8a06c' : '#fff'}
    strokeWidth={1.6}
    dash={offered ? [7, 6] : []}
    listening={false}
  />
  {#if !offered}
    {#each ends as [x, y], i (i)}
      <Rect
        x={x - SIZE / 2}
        y={y - SIZE / 2}
        width={SIZE}
        height={SIZE}
        fill={lit ? '#b3541e' : '#fff'}
        stroke="#111"
        strokeWidth={1.5}
      />
    {/each}
  {/if}
</Group>
