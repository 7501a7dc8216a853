<!-- Areas over the picture: the mask of the chosen one as hatching, its parts, letters at leaders, and what is being drawn. -->
<script lang="ts">
  import { Circle, Group, Image, Line } from 'svelte-konva';
  import type { Point } from '$core/math/frame-geometry.ts';
  import type { View } from '$core/picture/tile/mesh.ts';
  import { maskStages } from '$core/render/mask-picture.ts';
  import type { Shape } from '$core/steps/areas/shape.ts';
  import { letterOf } from '$core/steps/areas/step.ts';
  import type { OverlayProps } from '../parts/step-parts.ts';
  import SheetText from '../sheet/SheetText.svelte';
  import { boxOnSheet, fitView } from '../sheet/sheet-view.ts';
  import type { AreasToolState } from './areas-tool.svelte.ts';
  import { areaHistogram } from './area-histogram.ts';
  import { areasView } from './areas-view.svelte.ts';
  import { areasOf, changePart, chosenArea } from './edit-areas.ts';
  import { hatching } from './hatching.ts';
  import { anchorOf } from './part-handles.ts';
  import PartShape from './PartShape.svelte';

  let { bench, sheet, tool }: OverlayProps<AreasToolState> = $props();
  const mine = $derived(areasView(bench));
  const chosen = $derived(chosenArea(bench));
  const place = (field: Point): Point | null => sheet.toPlace(field);

  /** Pixels of the small picture that tells how much of the crop is covered. */
  const COUNTED = { width: 240, height: 160 };
  /** Places of a stroke that the picture may not yet show. */
  const FRESH = 8;
  /** Milliseconds without a change after which the mask is drawn. */
  const SOON = 30;

  let mask = $state.raw<{ picture: HTMLCanvasElement; view: View } | null>(null);
  const shape = $derived(chosen?.shape ?? null);
  const empty = $derived(!shape || (shape.parts.length === 0 && !shape.invert));

  const pixelsOf = (picture: HTMLCanvasElement): Uint8ClampedArray =>
    picture.getContext('2d')!.getImageData(0, 0, picture.width, picture.height).data;

  async function drawMask(of: Shape, view: View): Promise<void> {
    const stages = maskStages(bench.inputs, of);
    const picture = await sheet.drawAside('mask', view, stages);
    // What is shown may have changed while it was drawn.
    if (!picture || !wanted || chosenArea(bench)?.shape.id !== of.id) return;
    const { width, height } = picture;
    const drawn = pixelsOf(picture);
    if (mine.shown === 'hatching') {
      const marks = new ImageData(hatching(drawn, width, height), width, height);
      picture.getContext('2d')!.putImageData(marks, 0, 0);
    }
    mask = { picture, view };
  }
  /** Told of the crop whatever part of it is seen: moving the picture asks for nothing. Its tones are those that are shown. */
  async function countCover(of: Shape): Promise<void> {
    const view = fitView(bench.plan.crop, COUNTED, 0);
    const [crop, picture] = await Promise.all([
      sheet.drawAside('cover', view, maskStages(bench.inputs, of)),
      sheet.drawAside('covered', view)
    ]);
    if (!crop || !picture || chosenArea(bench)?.shape !== of) return;
    const { cover, ...histogram } = areaHistogram(pixelsOf(picture), pixelsOf(crop));
    [mine.cover, mine.histogram] = [cover, histogram];
  }
  const seen = $derived(sheet.opened && !bench.view.asShot);
  /** The shape as it was when nothing moved: another one while a control moves is what moves. */
  let atRest: Shape | null = null;
  const shapeMoves = $derived.by(() => {
    if (!bench.view.moving) atRest = shape;
    return bench.view.moving && shape !== atRest;
  });
  const wanted = $derived(
    mine.shown !== 'none' && !mine.judging && seen && (!bench.view.moving || shapeMoves)
  );
  /** What the area does is judged without the mask over it, until its shape is worked on again or the mask is asked for. */
  let judged: { area: string; settings: unknown } | null = null;
  $effect(() => {
    const area = chosen?.area;
    const now = area ? { area: area.id, settings: JSON.stringify([area.settings, area.opacity]) } : null;
    if (now && judged?.area === now.area && judged.settings !== now.settings) mine.judging = true;
    judged = now;
  });
  const onShape = $derived(mine.page === 'shape' || mine.page === 'edge');
  $effect(() => {
    void [mine.area, mine.part, mine.shown, shape, onShape];
    mine.judging = false;
  });
  $effect(() => {
    const of = shape;
    // Corrections and the crop move the mask with the picture.
    void bench.inputs.stages;
    void bench.plan.crop;
    if (!of || empty) [mine.cover, mine.histogram] = [of ? 0 : null, null];
    if (!of || empty || !seen || bench.view.moving) return;
    const timer = setTimeout(() => void countCover(of), SOON);
    return () => clearTimeout(timer);
  });
  /** One is drawn at a time; what was asked for meanwhile comes after it, as it is then. */
  let drawing = false;
  let next: (() => Promise<void>) | null = null;
  async function drawInTurn(draw: () => Promise<void>): Promise<void> {
    next = draw;
    if (drawing) return;
    drawing = true;
    try {
      while (next) {
        const now: () => Promise<void> = next;
        next = null;
        await now();
      }
    } finally {
      drawing = false;
    }
  }
  $effect(() => {
    const [of, view] = [shape, $state.snapshot(sheet.view) as View];
    // Corrections move the mask with the picture; another kind of showing it is another mask.
    void [bench.inputs.stages.geometry, mine.shown];
    if (!of || empty || !wanted) {
      mask = null;
      return;
    }
    if (bench.view.moving) return void drawInTurn(() => drawMask(of, view));
    const timer = setTimeout(() => void drawInTurn(() => drawMask(of, view)), SOON);
    return () => clearTimeout(timer);
  });

  /** Letters of all areas, each at the end of a leader from what its shape is known by. */
  const letters = $derived(
    areasOf(bench).list.flatMap(({ id, shape: of, enabled }, i) => {
      const parts = areasOf(bench).shapes.find((each) => each.id === of)?.parts ?? [];
      const anchor = parts.map(anchorOf).find((each) => each !== null);
      const at = anchor && place(anchor);
      return at ? [{ id, letter: letterOf(i), at, enabled }] : [];
    })
  );
  const LEADER = [24, -30] as const;
  const crop = $derived(boxOnSheet(bench.plan.crop, sheet.view));
  const corners = $derived(mine.corners.flatMap((corner) => place(corner) ?? []));
  const line = $derived(tool.line.flat());
  const pointer = $derived(sheet.pointer);
</script>

{#if mask && mask.view.width === sheet.view.width}
  <Group clipX={crop.left} clipY={crop.top} clipWidth={crop.width} clipHeight={crop.height} listening={false}>
    <Image image={mask.picture} x={0} y={0} width={sheet.size.width} height={sheet.size.height} />
  </Group>
{/if}
{#if chosen}
  <!-- One list, moving or not: what is dragged stays the same. -->
  {#each chosen.shape.parts.filter(({ id }) => !bench.view.moving || id === mine.part) as part (part.id)}
    <PartShape
      {part}
      held={part.id === mine.part}
      whole={mine.tool === 'move'}
      {place}
      field={(at) => sheet.toField(at)}
      move={(change, done) => changePart(bench, part.id, change, !done)}
      press={() => (mine.part = part.id)}
    />
  {/each}
{/if}
{#each letters as { id, letter, at, enabled } (id)}
  <Group
    opacity={enabled ? 1 : 0.5}
    onclick={() => {
      mine.area = id;
      mine.part = null;
    }}
  >
    <Line
      points={[...at, at[0] + LEADER[0], at[1] + LEADER[1]]}
      stroke="#111"
      strokeWidth={3}
      opacity={0.6}
      hitStrokeWidth={12}
    />
    <Line points={[...at, at[0] + LEADER[0], at[1] + LEADER[1]]} stroke="#fff" strokeWidth={1.2} />
    <SheetText
      x={at[0] + LEADER[0]}
      y={at[1] + LEADER[1] - 16}
      text={id === mine.area ? `${letter} ·` : letter}
    />
  </Group>
{/each}
{#if mine.tool === 'beside'}
  <!-- Marks that can be pressed on. -->
  {#each bench.recipe.lines.marks as mark (mark.id)}
    {@const ends = [place(mark.a), place(mark.b)]}
    {#if ends[0] && ends[1]}
      <Line points={[...ends[0], ...ends[1]]} stroke="#111" strokeWidth={3} opacity={0.5} listening={false} />
      <Line points={[...ends[0], ...ends[1]]} stroke="#fff" strokeWidth={1} dash={[8, 4]} listening={false} />
    {/if}
  {/each}
{/if}
{#if tool.drag}
  {@const { from, to } = tool.drag}
  <Line points={[...from, ...to]} stroke="#111" strokeWidth={4} opacity={0.65} listening={false} />
  <Line points={[...from, ...to]} stroke="#fff" strokeWidth={1.6} listening={false} />
{/if}
{#if corners.length > 0}
  <Line
    points={pointer ? [...corners, ...pointer] : corners}
    stroke="#111"
    strokeWidth={4}
    opacity={0.65}
    listening={false}
  />
  <Line
    points={pointer ? [...corners, ...pointer] : corners}
    stroke="#fff"
    strokeWidth={1.6}
    listening={false}
  />
{/if}
{#if line.length > 2 && mine.tool === 'brush'}
  <!-- Seen at once, before the mask is drawn: as wide as the brush. Where the picture follows, only what it has yet to. -->
  <Line
    points={tool.follows ? line.slice(-2 * FRESH) : line}
    stroke={tool.takes ? '#111' : '#fff'}
    strokeWidth={2 * tool.radius}
    lineCap="round"
    lineJoin="round"
    opacity={0.28}
    listening={false}
  />
{:else if line.length > 2}
  <Line points={line} stroke="#111" strokeWidth={4} opacity={0.65} listening={false} />
  <Line points={line} stroke="#fff" strokeWidth={1.6} dash={[5, 4]} listening={false} />
{/if}
{#if mine.tool === 'brush' && pointer}
  {@const [x, y] = pointer}
  <Circle {x} {y} radius={tool.radius} stroke="#111" strokeWidth={3} opacity={0.6} listening={false} />
  <Circle
    {x}
    {y}
    radius={tool.radius}
    stroke="#fff"
    strokeWidth={1.2}
    dash={mine.brush.erases || tool.takes ? [4, 4] : undefined}
    listening={false}
  />
  <Circle
    {x}
    {y}
    radius={tool.radius * (1 - mine.brush.softness / 100)}
    stroke="#fff"
    strokeWidth={0.8}
    opacity={0.7}
    listening={false}
  />
{/if}
