<!--
  A part of a shape over the picture, as on a drawing: a gradient is a ramp with ticks along its axis, a radial an ellipse with
  its two dimensions, an outline its line. What can be taken hold of is a hexagon.
-->
<script lang="ts">
  import { Circle, Group, Line, RegularPolygon } from 'svelte-konva';
  import type { KonvaDragTransformEvent } from 'svelte-konva';
  import type { Point } from '$core/math/frame-geometry.ts';
  import type { Part } from '$core/steps/areas/parts/part.ts';
  import SheetText from '../sheet/SheetText.svelte';
  import { heldStraight } from './hold-straight.ts';
  import { handlesOf, onEllipse } from './part-handles.ts';

  interface Props {
    part: Part;
    /** It is the one in hand: it has handles, and others are drawn thin. */
    held: boolean;
    /** Drawn parts are moved, turned and scaled as one. */
    whole?: boolean;
    place: (field: Point) => Point | null;
    move: (change: object, done: boolean) => void;
    field: (place: Point) => Point | null;
    press: () => void;
  }
  let { part, held, whole = false, place, move, field, press }: Props = $props();

  const ROUND = 72;
  const TICKS = [0, 0.25, 0.5, 0.75, 1];
  /** Pixels of a tick across the axis. */
  const LONG = 60;
  const SHORT = 9;

  interface Stroke {
    points: number[];
    closed?: boolean;
    dash?: number[];
  }
  const placed = (fields: readonly Point[]): number[] => fields.flatMap((each) => place(each) ?? []);

  function tick(a: Point, b: Point, at: number, half: number): number[] {
    const [x, y] = [a[0] + (b[0] - a[0]) * at, a[1] + (b[1] - a[1]) * at];
    const length = Math.max(1, Math.hypot(b[0] - a[0], b[1] - a[1]));
    const [nx, ny] = [((a[1] - b[1]) / length) * half, ((b[0] - a[0]) / length) * half];
    return [x - nx, y - ny, x + nx, y + ny];
  }
  /** From the middle of a drawn part to where it is turned by. */
  const arm = $derived.by((): Stroke[] => {
    if (!held || !whole || (part.kind !== 'polygon' && part.kind !== 'lasso' && part.kind !== 'brush'))
      return [];
    const ends = handlesOf(part, true).slice(-2);
    return ends.length === 2 ? [{ points: placed(ends.map(({ at }) => at)), dash: [2, 4] }] : [];
  });
  const strokes = $derived.by((): Stroke[] => {
    if (part.kind === 'gradient' || part.kind === 'beside') {
      const [a, b] = [place(part.a), place(part.b)];
      if (!a || !b) return [];
      if (part.kind === 'beside') return [{ points: [...a, ...b] }];
      const ends: Stroke[] = TICKS.map((at) => ({
        points: tick(a, b, at, at === 0 || at === 1 ? LONG : SHORT),
        dash: at === 1 ? [6, 5] : undefined
      }));
      const other: Point = [2 * a[0] - b[0], 2 * a[1] - b[1]];
      const mirrored: Stroke[] = part.twoSided
        ? [{ points: [...a, ...other] }, { points: tick(a, other, 1, LONG), dash: [6, 5] }]
        : [];
      return [{ points: [...a, ...b] }, ...ends, ...mirrored];
    }
    if (part.kind === 'radial') {
      const ring = (share: number): Point[] =>
        Array.from({ length: ROUND }, (_, i) => {
          const turn = (2 * Math.PI * i) / ROUND;
          return onEllipse(part, share * Math.cos(turn), share * Math.sin(turn));
        });
      const inner = 1 - part.feather / 100;
      const axes = held
        ? [
            { points: placed([onEllipse(part, -1, 0), onEllipse(part, 1, 0)]) },
            { points: placed([onEllipse(part, 0, -1), onEllipse(part, 0, 1)]) }
          ]
        : [];
      const rim = inner > 0.05 ? [{ points: placed(ring(inner)), closed: true, dash: [5, 5] }] : [];
      return [{ points: placed(ring(1)), closed: true }, ...rim, ...axes];
    }
    if (part.kind === 'polygon' || part.kind === 'lasso')
      return [{ points: placed(part.points), closed: true }, ...arm];
    return part.kind === 'brush' ? arm : [];
  });
  const handles = $derived(
    held
      ? handlesOf(part, whole).flatMap((handle) => {
          const at = place(handle.at);
          return at ? [{ ...handle, place: at }] : [];
        })
      : []
  );
  const dimensions = $derived.by(() => {
    if (part.kind !== 'radial' || !held) return [];
    const told = (value: number): string => `${Math.round(value * 2000)} ‰`;
    return [
      { at: place(onEllipse(part, 1, 0)), text: told(part.across) },
      { at: place(onEllipse(part, 0, 1)), text: told(part.down) }
    ].flatMap(({ at, text }) => (at ? [{ at, text }] : []));
  });
  /** What was taken hold of, as it was then: a part that turns has its handles elsewhere meanwhile. */
  let taken: (typeof handles)[number] | null = null;
  /** With Shift held the ramp of a gradient stays plumb or level. */
  function straight(to: Point): Point {
    if (part.kind !== 'gradient' || !taken) return to;
    const other =
      taken.name === handles[0].name ? handles[1] : taken.name === handles[1].name ? handles[0] : null;
    return other ? heldStraight(other.place, to) : to;
  }
  function drag(handle: (typeof handles)[number], event: KonvaDragTransformEvent, done: boolean): void {
    taken ??= handle;
    const at: Point = [event.target.x(), event.target.y()];
    const to = field((event.evt as MouseEvent | undefined)?.shiftKey ? straight(at) : at);
    if (to) move(taken.moved(to), done);
    if (!done) return;
    taken = null;
    event.target.position({ x: handle.place[0], y: handle.place[1] });
  }
</script>

<Group onclick={press} ontap={press}>
  {#each strokes as { points, closed, dash }, i (i)}
    <Line
      {points}
      {closed}
      {dash}
      stroke="#111"
      strokeWidth={held ? 4 : 3}
      opacity={0.65}
      hitStrokeWidth={12}
    />
    <Line {points} {closed} {dash} stroke="#fff" strokeWidth={held ? 1.6 : 1} listening={false} />
  {/each}
</Group>
{#each dimensions as { at, text }, i (i)}
  <SheetText x={at[0] + 10} y={at[1] - 20} {text} />
{/each}
{#each handles as handle, i (i)}
  {@const hold = {
    x: handle.place[0],
    y: handle.place[1],
    stroke: '#111',
    strokeWidth: 1.5,
    hitStrokeWidth: 16,
    draggable: true,
    ondragmove: (e: KonvaDragTransformEvent) => drag(handle, e, false),
    ondragend: (e: KonvaDragTransformEvent) => drag(handle, e, true)
  }}
  {#if part.kind === 'colour'}
    <Circle {...hold} radius={5} fill="rgba(255,255,255,0.5)" />
  {:else}
    <RegularPolygon {...hold} sides={6} radius={7} fill="#fff" />
  {/if}
{/each}
