<!-- Mended places over the picture: a solid outline each, a dashed one for its source, and a leader line between them. -->
<script lang="ts">
  import { Circle, Group, Image, Line, RegularPolygon } from 'svelte-konva';
  import type { KonvaDragTransformEvent } from 'svelte-konva';
  import type { Point } from '$core/math/frame-geometry.ts';
  import type { View } from '$core/picture/tile/mesh.ts';
  import type { Patch } from '$core/steps/mend/patch.ts';
  import type { OverlayProps } from '../parts/step-parts.ts';
  import { boxOnSheet } from '../sheet/sheet-view.ts';
  import { changePatch, mendOf } from './edit-mend.svelte.ts';
  import type { MendToolState } from './mend-tool.svelte.ts';
  import { mendView } from './mend-view.svelte.ts';
  import { handlesOf, middleOf } from './patch-handles.ts';
  import { strokeOutline } from './stroke-outline.ts';
  import { plainDust } from './plain-dust.ts';

  let { bench, sheet, tool }: OverlayProps<MendToolState> = $props();
  const mine = $derived(mendView(bench));
  const place = (field: Point): Point | null => sheet.toPlace(field);
  const SOON = 30;

  let plain = $state.raw<{ picture: HTMLCanvasElement; view: View } | null>(null);
  $effect(() => {
    const view = $state.snapshot(sheet.view) as View;
    const { stages } = bench.inputs;
    if (!mine.plain || !sheet.opened || bench.view.asShot || bench.view.moving) {
      plain = null;
      return;
    }
    const timer = setTimeout(async () => {
      const picture = await sheet.drawAside('mask', view, stages);
      if (!picture || !mine.plain) return;
      const { width, height } = picture;
      const context = picture.getContext('2d')!;
      const drawn = context.getImageData(0, 0, width, height).data;
      context.putImageData(new ImageData(plainDust(drawn, width, height), width, height), 0, 0);
      plain = { picture, view };
    }, SOON);
    return () => clearTimeout(timer);
  });

  interface Shown {
    patch: Patch;
    line: number[];
    source: number[] | null;
    radius: number;
    chosen: boolean;
  }
  const shown = $derived(
    mendOf(bench).patches.flatMap((patch): Shown[] => {
      const moved = (dx: number, dy: number): number[] =>
        Array.from({ length: patch.points.length / 2 }, (_, i) =>
          place([patch.points[2 * i] + dx, patch.points[2 * i + 1] + dy])
        ).flatMap((at) => at ?? []);
      const line = moved(0, 0);
      if (line.length < patch.points.length) return [];
      const chosen = patch.id === mine.patch;
      const middle = place(middleOf(patch))!;
      return [
        {
          patch,
          line,
          source: chosen && (patch.kind === 'heal' || patch.kind === 'clone') ? moved(...patch.source) : null,
          radius: Math.max(3, (patch.size / 1000) * tool.scaleAt(middle)),
          chosen
        }
      ];
    })
  );
  const handles = $derived(
    shown
      .filter(({ chosen }) => chosen)
      .flatMap(({ patch }) =>
        handlesOf(patch).flatMap((handle) => {
          const at = place(handle.at);
          return at ? [{ ...handle, id: patch.id, place: at }] : [];
        })
      )
  );
  function drag(handle: (typeof handles)[number], event: KonvaDragTransformEvent, done: boolean): void {
    const to = sheet.toField([event.target.x(), event.target.y()]);
    if (to) changePatch(bench, handle.id, handle.moved(to), !done);
    if (done) event.target.position({ x: handle.place[0], y: handle.place[1] });
  }
  /** From the rim of one circle to that of the other. */
  function leader(from: readonly number[], to: readonly number[], radius: number): number[] {
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const length = Math.hypot(dx, dy);
    if (length < 2 * radius) return [];
    const by = radius / length;
    return [from[0] + dx * by, from[1] + dy * by, to[0] - dx * by, to[1] - dy * by];
  }
  const crop = $derived(boxOnSheet(bench.plan.crop, sheet.view));
  const drawing = $derived(tool.line.flat());
  const pointer = $derived(sheet.pointer);
</script>

{#snippet outline(line: number[], radius: number, dash: number[] | undefined, strong: boolean)}
  {#if line.length === 2}
    <Circle
      x={line[0]}
      y={line[1]}
      {radius}
      stroke="#111"
      strokeWidth={strong ? 3.6 : 3}
      opacity={0.6}
      listening={false}
    />
    <Circle
      x={line[0]}
      y={line[1]}
      {radius}
      {dash}
      stroke="#fff"
      strokeWidth={strong ? 1.6 : 1.1}
      listening={false}
    />
  {:else}
    {#each strokeOutline(line, radius) as ring, i (i)}
      <Line points={ring} closed stroke="#111" strokeWidth={3} opacity={0.6} listening={false} />
      <Line points={ring} closed {dash} stroke="#fff" strokeWidth={strong ? 1.6 : 1.1} listening={false} />
    {/each}
  {/if}
{/snippet}

<!-- Always there, so that what it shows comes below what is drawn over it. -->
<Group clipX={crop.left} clipY={crop.top} clipWidth={crop.width} clipHeight={crop.height} listening={false}>
  {#if plain && plain.view.width === sheet.view.width}
    <Image image={plain.picture} x={0} y={0} width={sheet.size.width} height={sheet.size.height} />
  {/if}
</Group>
{#if !bench.view.moving || mine.patch}
  {#each shown as { patch, line, source, radius, chosen } (patch.id)}
    <Group opacity={patch.enabled ? 1 : 0.45}>
      {@render outline(line, radius, undefined, chosen)}
      {#if source}
        {@render outline(source, radius, [5, 4], true)}
        {@const between = leader(middleOf({ points: line }), middleOf({ points: source }), radius)}
        <Line points={between} stroke="#111" strokeWidth={3} opacity={0.6} listening={false} />
        <Line points={between} stroke="#fff" strokeWidth={1.1} listening={false} />
      {/if}
      {#if !chosen && mine.tool === 'move'}
        <Line
          points={line.length === 2 ? [...line, ...line] : line}
          stroke="#000"
          opacity={0}
          strokeWidth={1}
          lineCap="round"
          hitStrokeWidth={Math.max(16, 2 * radius)}
          onclick={() => (mine.patch = patch.id)}
          ontap={() => (mine.patch = patch.id)}
        />
      {/if}
    </Group>
  {/each}
{/if}
{#each handles as handle (handle.name)}
  <RegularPolygon
    x={handle.place[0]}
    y={handle.place[1]}
    sides={6}
    radius={6}
    fill="#fff"
    stroke="#111"
    strokeWidth={1.5}
    hitStrokeWidth={14}
    draggable
    ondragmove={(event: KonvaDragTransformEvent) => drag(handle, event, false)}
    ondragend={(event: KonvaDragTransformEvent) => drag(handle, event, true)}
  />
{/each}
{#if drawing.length > 2}
  <!-- Seen at once, as wide as it will be. -->
  <Line
    points={drawing}
    stroke="#fff"
    strokeWidth={2 * tool.radius}
    lineCap="round"
    lineJoin="round"
    opacity={0.28}
    listening={false}
  />
{/if}
{#if mine.tool !== 'move' && pointer}
  {@const [x, y] = pointer}
  <Circle {x} {y} radius={tool.radius} stroke="#111" strokeWidth={3} opacity={0.6} listening={false} />
  <Circle {x} {y} radius={tool.radius} stroke="#fff" strokeWidth={1.2} listening={false} />
{/if}
