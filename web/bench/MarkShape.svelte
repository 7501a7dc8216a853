<!-- One mark: dark-light-dark, ends by kind (triangle plumb, circle level), both draggable. -->
<script lang="ts">
  import { Circle, Group, Line, RegularPolygon } from 'svelte-konva';
  import type { KonvaDragTransformEvent } from 'svelte-konva';
  import type { Point } from '$core/camera/frame-geometry.ts';
  import type { MarkKind } from '$core/lines/mark.ts';

  interface Props {
    kind: MarkKind;
    a: Point;
    b: Point;
    lit: boolean;
    /** Found lines are many, and drawn with smaller ends. */
    small?: boolean;
    moved: (end: 'a' | 'b', to: Point, done: boolean) => void;
    hovered: (inside: boolean) => void;
  }
  let { kind, a, b, lit, small = false, moved, hovered }: Props = $props();
  const points = $derived([...a, ...b]);
  const report = (end: 'a' | 'b', event: KonvaDragTransformEvent, done: boolean): void =>
    moved(end, [event.target.x(), event.target.y()], done);
  const look = $derived({
    fill: lit ? '#b3541e' : '#fff',
    stroke: '#111',
    strokeWidth: 1.5,
    hitStrokeWidth: 14
  });
</script>

<Group onmouseenter={() => hovered(true)} onmouseleave={() => hovered(false)}>
  <Line {points} stroke="#111" strokeWidth={4} opacity={0.75} />
  <Line {points} stroke={lit ? '#e8a06c' : '#fff'} strokeWidth={1.6} />
  {#each [['a', a], ['b', b]] as const as [end, at] (end)}
    {#if kind === 'plumb'}
      <RegularPolygon
        x={at[0]}
        y={at[1]}
        sides={3}
        radius={small ? 5.5 : 8}
        rotation={180}
        {...look}
        draggable
        ondragmove={(e) => report(end, e, false)}
        ondragend={(e) => report(end, e, true)}
      />
    {:else}
      <Circle
        x={at[0]}
        y={at[1]}
        radius={small ? 4 : 6}
        {...look}
        draggable
        ondragmove={(e) => report(end, e, false)}
        ondragend={(e) => report(end, e, true)}
      />
    {/if}
  {/each}
</Group>
