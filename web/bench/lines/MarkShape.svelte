<!--
  One mark: dark-light-dark. Its ends tell what it is by shape: triangle plumb, circle level, ring level but running away,
  square straight, small cross nothing. Lines that do not count are dashed.
-->
<script lang="ts">
  import { Circle, Group, Line, Rect, RegularPolygon } from 'svelte-konva';
  import type { KonvaDragTransformEvent } from 'svelte-konva';
  import type { Point } from '$core/math/frame-geometry.ts';
  import { type Mark, counts } from '$core/steps/lines/mark.ts';

  interface Props {
    mark: Pick<Mark, 'kind' | 'out' | 'recedes' | 'found'>;
    a: Point;
    b: Point;
    lit: boolean;
    chosen?: boolean;
    moved?: (end: 'a' | 'b', to: Point, done: boolean) => void;
    hovered?: (inside: boolean) => void;
    pressed?: (add: boolean) => void;
  }
  let {
    mark,
    a,
    b,
    lit,
    chosen = false,
    moved = () => {},
    hovered = () => {},
    pressed = () => {}
  }: Props = $props();
  const points = $derived([...a, ...b]);
  const counted = $derived(counts(mark as Mark));
  const small = $derived(mark.found || !counted);
  const report = (end: 'a' | 'b', event: KonvaDragTransformEvent, done: boolean): void =>
    moved(end, [event.target.x(), event.target.y()], done);
  const look = $derived({
    fill: mark.recedes ? 'rgba(255,255,255,0.25)' : lit ? '#b3541e' : chosen ? '#e8a06c' : '#fff',
    stroke: mark.recedes ? (lit || chosen ? '#e8a06c' : '#fff') : '#111',
    strokeWidth: mark.recedes ? 2.2 : 1.5,
    // A target of 24 px and more, however small it is drawn.
    hitStrokeWidth: 18,
    draggable: true
  });
  const dash = $derived(counted ? undefined : [7, 5]);
</script>

<Group
  onmouseenter={() => hovered(true)}
  onmouseleave={() => hovered(false)}
  onclick={(event: { evt: MouseEvent }) => pressed(event.evt.shiftKey)}
>
  <Line {points} stroke="#111" strokeWidth={4} opacity={counted ? 0.75 : 0.45} {dash} hitStrokeWidth={12} />
  <Line
    {points}
    stroke={lit || chosen ? '#e8a06c' : '#fff'}
    strokeWidth={1.6}
    opacity={counted ? 1 : 0.8}
    {dash}
    listening={false}
  />
  {#each [['a', a], ['b', b]] as const as [end, at] (end)}
    {@const place = {
      x: at[0],
      y: at[1],
      ondragmove: (e: KonvaDragTransformEvent) => report(end, e, false),
      ondragend: (e: KonvaDragTransformEvent) => report(end, e, true)
    }}
    {#if mark.kind === 'plumb'}
      <RegularPolygon {...place} sides={3} radius={small ? 5.5 : 8} rotation={180} {...look} />
    {:else if mark.kind === 'level'}
      <Circle {...place} radius={small ? 4 : 6} {...look} />
    {:else if mark.kind === 'straight'}
      <Rect {...place} offsetX={4} offsetY={4} width={8} height={8} {...look} />
    {:else}
      <RegularPolygon {...place} sides={4} radius={3.5} {...look} />
    {/if}
  {/each}
</Group>
