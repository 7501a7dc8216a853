<!-- The line between two pictures: dragged by itself, and turned by its ends. -->
<script lang="ts">
  import { Circle, Group, Line, Rect } from 'svelte-konva';
  import type { KonvaDragTransformEvent } from 'svelte-konva';
  import type { FrameSize, Point } from '$core/math/frame-geometry.ts';
  import type { Compare } from './compare-state.svelte.ts';
  import { ARM, angleThrough, placeOf, waysOf } from './half-plane.ts';

  let { compare, size }: { compare: Compare; size: FrameSize } = $props();
  const place = $derived(placeOf(compare.line, size));
  const along = $derived(waysOf(compare.line).along);
  const far = $derived(Math.hypot(size.width, size.height));
  const beyond = (by: number): Point => [place[0] + by * along[0], place[1] + by * along[1]];
  const points = $derived([...beyond(-far), ...beyond(far)]);
  const ends = $derived([beyond(-ARM), beyond(ARM)]);

  function moved({ target }: KonvaDragTransformEvent): void {
    const { x, y } = target.position();
    compare.line = { ...compare.line, x: x / size.width, y: y / size.height };
  }
  function turned({ target }: KonvaDragTransformEvent, end: number): void {
    const { x, y } = target.position();
    const angle = angleThrough(place, [x, y]) + (end === 0 ? 180 : 0);
    compare.line = { ...compare.line, angle };
    const [px, py] = beyond(end === 0 ? -ARM : ARM);
    target.position({ x: px, y: py });
  }
</script>

<Group>
  <Line {points} stroke="#111" strokeWidth={3} opacity={0.6} listening={false} />
  <Line {points} stroke="#fff" strokeWidth={1} listening={false} />
  <Rect
    x={place[0]}
    y={place[1]}
    offsetX={6}
    offsetY={14}
    width={12}
    height={28}
    rotation={compare.line.angle}
    fill="#fff"
    stroke="#111"
    strokeWidth={1.5}
    hitStrokeWidth={18}
    draggable
    ondragmove={moved}
    ondragend={moved}
    name="wipe-line"
  />
  {#each ends as [x, y], end (end)}
    <Circle
      {x}
      {y}
      radius={5}
      fill="#fff"
      stroke="#111"
      strokeWidth={1.5}
      hitStrokeWidth={16}
      draggable
      ondragmove={(event) => turned(event, end)}
      ondragend={(event) => turned(event, end)}
    />
  {/each}
</Group>
