<!-- Everything of the Lines step that lies over the picture: marks, the known rectangle, lengths and the lasso. -->
<script lang="ts">
  import { Line, Rect } from 'svelte-konva';
  import type { KonvaDragTransformEvent } from 'svelte-konva';
  import type { Point } from '$core/math/frame-geometry.ts';
  import { decimalsFor, measureLengths } from '$core/steps/lines/measure-lengths.ts';
  import type { OverlayProps } from '../parts/step-parts.ts';
  import type { LinesToolState } from './lines-tool.svelte.ts';
  import MarkShape from './MarkShape.svelte';
  import SheetText from '../sheet/SheetText.svelte';
  import { changeMarks, takenInOrOut } from './true-up.ts';
  import { linesView } from './lines-view.svelte.ts';

  let { bench, sheet, tool }: OverlayProps<LinesToolState> = $props();
  const mine = $derived(linesView(bench));
  const lines = $derived(bench.recipe.lines);
  const page = $derived(mine.page);

  const place = (field: Point): Point | null => sheet.toPlace(field);
  const placed = <T extends { a: Point; b: Point }>(of: readonly T[]): { item: T; a: Point; b: Point }[] =>
    of.flatMap((item) => {
      const [a, b] = [place(item.a), place(item.b)];
      return a && b ? [{ item, a, b }] : [];
    });
  const marks = $derived(placed(lines.marks));
  const measures = $derived(page === 'lengths' ? placed(lines.measures) : []);
  const lengths = $derived(
    new Map(measureLengths(lines.measures, bench.plan.projection)?.map((length) => [length.id, length]))
  );
  const corners = $derived(
    page === 'lengths' ? (lines.rectangle?.corners ?? tool.corners).flatMap((c) => place(c) ?? []) : []
  );
  const handles = $derived(corners.flatMap((_, i) => (i % 2 === 0 ? [[corners[i], corners[i + 1]]] : [])));

  function moveEnd(id: string, end: 'a' | 'b', at: Point, done: boolean): void {
    tool.dragged(done ? null : at);
    const field = sheet.toField(at);
    if (!field || field.some((value) => Math.abs(value) > 1.5)) return;
    const moved = <T extends { id: string }>(of: T): T => (of.id === id ? { ...of, [end]: field } : of);
    bench.change('lines', { marks: lines.marks.map(moved), measures: lines.measures.map(moved) }, !done);
  }
  function moveCorner(i: number, event: KonvaDragTransformEvent, done: boolean): void {
    const at: Point = [event.target.x(), event.target.y()];
    tool.dragged(done ? null : at);
    const field = sheet.toField(at);
    if (!field || !lines.rectangle) return;
    const moved = lines.rectangle.corners.map((corner, n) => (n === i ? field : corner));
    bench.change('lines', { rectangle: { ...lines.rectangle, corners: moved as never } }, !done);
  }
  function press(id: string, add: boolean): void {
    const mark = lines.marks.find((other) => other.id === id);
    if (!mark) return;
    if (mine.tool !== 'choose') changeMarks(bench, [id], (of) => takenInOrOut(bench, of));
    else if (mine.chosen.includes(id)) mine.chosen = mine.chosen.filter((other) => other !== id);
    else mine.chosen = add ? [...mine.chosen, id] : [id];
  }
  const label = (id: string): string => {
    const length = lengths.get(id);
    if (!length) return '?';
    const figure = length.length.toFixed(length.known ? 3 : decimalsFor(length.uncertainty));
    return `${length.known ? Number(figure) : figure} ${lines.unit}`;
  };
</script>

{#if page !== 'lengths'}
  {#each marks as { item: mark, a, b } (mark.id)}
    <MarkShape
      {mark}
      {a}
      {b}
      lit={bench.view.lit === mark.id}
      chosen={mine.chosen.includes(mark.id)}
      moved={(end, at, done) => moveEnd(mark.id, end, at, done)}
      hovered={(inside) => (bench.view.lit = inside ? mark.id : null)}
      pressed={(add) => press(mark.id, add)}
    />
  {/each}
{/if}
{#each measures as { item, a, b } (item.id)}
  <MarkShape
    mark={{ kind: 'straight' }}
    {a}
    {b}
    lit={bench.view.lit === item.id}
    moved={(end, at, done) => moveEnd(item.id, end, at, done)}
    hovered={(inside) => (bench.view.lit = inside ? item.id : null)}
  />
  <SheetText x={(a[0] + b[0]) / 2 + 6} y={(a[1] + b[1]) / 2 - 18} text={label(item.id)} />
{/each}
{#if corners.length > 0}
  <Line
    points={corners}
    closed={corners.length === 8}
    stroke="#111"
    strokeWidth={4}
    opacity={0.7}
    listening={false}
  />
  <Line points={corners} closed={corners.length === 8} stroke="#fff" strokeWidth={1.6} listening={false} />
  {#each handles as [x, y], i (i)}
    <Rect
      {x}
      {y}
      offsetX={5}
      offsetY={5}
      width={10}
      height={10}
      rotation={45}
      fill="#fff"
      stroke="#111"
      strokeWidth={1.5}
      hitStrokeWidth={16}
      draggable={lines.rectangle !== null}
      ondragmove={(e) => moveCorner(i, e, false)}
      ondragend={(e) => moveCorner(i, e, true)}
    />
  {/each}
{/if}
{#if tool.line}
  {@const kind = mine.tool === 'plumb' || mine.tool === 'level' ? mine.tool : 'straight'}
  <MarkShape mark={{ kind }} a={tool.line.a} b={tool.line.b} lit />
{/if}
{#if tool.lasso.length > 1}
  <Line points={tool.lasso.flat()} closed stroke="#111" strokeWidth={3} opacity={0.6} listening={false} />
  <Line
    points={tool.lasso.flat()}
    closed
    stroke="#fff"
    strokeWidth={1.2}
    dash={[5, 4]}
    fill="rgba(255,255,255,0.12)"
    listening={false}
  />
{/if}
