<!-- The sheet: the picture between its rulers, with marks, crop, grid and magnifier drawn over it. -->
<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { Layer, Line, Stage } from 'svelte-konva';
  import type { Point } from '$core/math/frame-geometry.ts';
  import { halfDiagonal } from '$core/math/frame-geometry.ts';
  import { counts } from '$core/lines/mark.ts';
  import type { TracedMark } from '$core/lines/solve-together.ts';
  import type { TrueUpItself } from '$core/lines/true-up-itself.ts';
  import type { Matrix3 } from '$core/math/matrix3.ts';
  import { fieldToUpright, uprightToField } from '$core/geometry/projection.ts';
  import type { View } from '$core/tile/mesh.ts';
  import { type Drawn, type Preview, openPreview } from '../preview/preview.ts';
  import type { Histogram } from '../preview/messages.ts';
  import CropShape from './CropShape.svelte';
  import CurveShape from './CurveShape.svelte';
  import LinesOverlay from './LinesOverlay.svelte';
  import Ruler from './Ruler.svelte';
  import type { Bench } from './bench-state.svelte.ts';
  import { createLinesTool } from './lines-tool.svelte.ts';
  import { focalTold, showFoundLines, solveMarksTogether, takeFoundLines } from './true-up.ts';
  import { fitView, oneToOneView, shownArea, toSheet, toUpright, viewAbout } from './sheet-view.ts';

  interface Props {
    bench: Bench;
    /** Frames that may be opened next. */
    neighbours: string[];
    onhistogram: (histogram: Histogram) => void;
  }
  let { bench, neighbours, onhistogram }: Props = $props();

  const RULER = 18;
  const MAGNIFIER = 150;
  /** Screen pixels per pixel of the full-size picture under the magnifier. */
  const MAGNIFICATION = 2;

  let frame: HTMLDivElement;
  let canvas: HTMLCanvasElement;
  let magnifier = $state<HTMLCanvasElement>();
  let sheet = $state({ width: 800, height: 500 });
  let pointer = $state<Point | null>(null);
  let dragging = $state<Point | null>(null);
  let panning: { from: Point; centre: { x: number; y: number } } | null = null;
  let status = $state('Opening the picture…');
  let fetching = $state(false);
  let preview: Preview | null = null;
  let opened = $state(false);

  const plan = $derived(bench.shown.plan);
  const whole = $derived(bench.view.step !== 'lens' && !bench.view.asShot);
  const view = $derived<View>(
    bench.view.zoom === '1:1'
      ? oneToOneView([bench.view.centre.x, bench.view.centre.y], plan, sheet)
      : fitView(shownArea(plan, whole), sheet)
  );
  const unit = $derived(1 / halfDiagonal(bench.optics.size));

  const toField = (place: Point): Point | null => uprightToField(toUpright(place, view), plan.projection);
  const linesTool = untrack(() =>
    createLinesTool(bench, {
      toField: (place) => toField(place),
      toSheet: (upright) => toSheet(upright, view)
    })
  );

  $effect(() => {
    if (!opened) return;
    const wanted = {
      target: 'sheet' as const,
      stages: bench.shown.stages,
      view: $state.snapshot(view) as View,
      draft: bench.view.moving,
      about: untrack(() => pointer)
    };
    untrack(() => preview?.draw(wanted));
  });

  // The magnifier follows the end that is being placed.
  const magnifierAt = $derived<Point | null>(dragging ?? linesTool.line?.b ?? null);
  $effect(() => {
    if (!magnifierAt || !opened) return;
    const centre = toUpright(magnifierAt, view);
    const wanted = {
      target: 'magnifier' as const,
      stages: bench.shown.stages,
      view: viewAbout(centre, unit / MAGNIFICATION, { width: MAGNIFIER, height: MAGNIFIER }),
      draft: false
    };
    untrack(() => preview?.draw(wanted));
  });

  let smallDrawn: ((picture: HTMLCanvasElement | null) => void) | null = null;

  /** The frame as its recipe stands, in a small view of its own; null when a newer one was asked for meanwhile. */
  export function drawSmall(view: View): Promise<HTMLCanvasElement | null> {
    if (!opened || !preview) return Promise.resolve(null);
    smallDrawn?.(null);
    preview.draw({ target: 'small', stages: bench.inputs.stages, view, draft: true });
    return new Promise((resolve) => (smallDrawn = resolve));
  }

  function showSmall(picture: Drawn): void {
    const drawn = document.createElement('canvas');
    drawn.width = picture.width;
    drawn.height = picture.height;
    const data = new ImageData(picture.pixels, picture.width, picture.height);
    drawn.getContext('2d')!.putImageData(data, 0, 0);
    smallDrawn?.(drawn);
    smallDrawn = null;
  }

  function show(picture: Drawn): void {
    if (picture.target === 'small') {
      showSmall(picture);
      return;
    }
    const target = picture.target === 'sheet' ? canvas : magnifier;
    if (!target) return;
    if (target.width !== picture.width) target.width = picture.width;
    if (target.height !== picture.height) target.height = picture.height;
    const data = new ImageData(picture.pixels, picture.width, picture.height);
    target.getContext('2d')!.putImageData(data, 0, 0);
    if (picture.target === 'sheet') {
      if (picture.histogram) onhistogram(picture.histogram);
      canvas.dataset.drawn = String(Number(canvas.dataset.drawn ?? 0) + 1);
      canvas.dataset.milliseconds = picture.milliseconds.toFixed(1);
      canvas.dataset.sharp = String(picture.sharp && !picture.draft);
      canvas.dataset.rest = String(!picture.draft);
      canvas.dataset.at = String(performance.now());
    }
  }

  onMount(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      sheet = {
        width: Math.max(100, Math.floor(width) - RULER),
        height: Math.max(100, Math.floor(height) - RULER)
      };
    });
    observer.observe(frame);
    preview = openPreview(
      {
        frameId: bench.frame.id,
        size: bench.optics.size,
        proxy: bench.frame.proxy!,
        toWorking: $state.snapshot(bench.facts.toWorking) as Matrix3
      },
      {
        opened: () => {
          status = '';
          opened = true;
        },
        failed: (message) => (status = message),
        fetching: (waiting) => (fetching = waiting),
        missing: (message) => (status = message),
        drawn: show
      }
    );
    preview.ahead(untrack(() => neighbours));
    return () => {
      observer.disconnect();
      preview?.close();
    };
  });

  /** A drag outside the crop turns the picture about the crop's middle. */
  let rotating: { from: number; roll: number } | null = null;
  const outsideCrop = ([x, y]: Point): boolean => {
    const { left, top, width, height } = cropBox;
    return x < left - 12 || y < top - 12 || x > left + width + 12 || y > top + height + 12;
  };
  const angleOf = ([x, y]: Point): number => {
    const { left, top, width, height } = cropBox;
    return (Math.atan2(y - top - height / 2, x - left - width / 2) * 180) / Math.PI;
  };

  const at = (event: PointerEvent | MouseEvent): Point => {
    const box = canvas.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };

  interface Pressed {
    target: { getStage(): unknown; draggable?: () => boolean };
    evt: PointerEvent;
  }

  function down(event: Pressed): void {
    const empty = (event.target as unknown) === event.target.getStage();
    // A new line may begin on one that is there; only what can be dragged keeps the press for itself.
    const corner = bench.view.tool === 'rectangle' && bench.recipe.lines.rectangle === null;
    const free = empty || (bench.view.step === 'lines' && (corner || !event.target.draggable?.()));
    if (!free || event.evt.button !== 0) return;
    const place = at(event.evt);
    if (
      bench.view.step === 'lens' &&
      !bench.view.asShot &&
      bench.view.lensTool !== 'none' &&
      !event.evt.altKey
    ) {
      void useLensTool(place);
    } else if (bench.view.step === 'lines' && !bench.view.asShot && !event.evt.altKey) linesTool.down(place);
    else if (bench.view.step === 'crop' && !bench.view.asShot && outsideCrop(place))
      rotating = { from: angleOf(place), roll: bench.recipe.lines.roll };
    else if (bench.view.zoom === '1:1') panning = { from: place, centre: { ...bench.view.centre } };
  }

  function move(event: PointerEvent): void {
    pointer = at(event);
    linesTool.move(pointer);
    if (rotating) {
      const roll = rotating.roll + angleOf(pointer) - rotating.from;
      const turned = Math.round((((roll + 540) % 360) - 180) * 100) / 100;
      if (Math.abs(turned) <= 45) bench.change('lines', { roll: turned, enabled: true }, true);
    } else if (panning) {
      bench.view.centre = {
        x: panning.centre.x - (pointer[0] - panning.from[0]) * view.pixel,
        y: panning.centre.y - (pointer[1] - panning.from[1]) * view.pixel
      };
    }
  }

  function up(event: PointerEvent): void {
    panning = null;
    if (rotating) bench.commit();
    rotating = null;
    linesTool.up(event.shiftKey);
  }

  /** Corners of the straight mark being drawn, on the sheet. */
  let corners = $state<Point[]>([]);
  /** Presses this near to each other, in pixels, end the mark. */
  const SAME_PLACE = 6;

  async function useLensTool(place: Point): Promise<void> {
    if (bench.view.lensTool === 'curve') {
      const last = corners[corners.length - 1];
      if (last && Math.hypot(last[0] - place[0], last[1] - place[1]) < SAME_PLACE) await endCurve();
      else corners = [...corners, place];
      return;
    }
    const field = toField(place);
    if (!field || !preview) return;
    const { hue, chroma } = await preview.ask<'hue'>({ kind: 'hue', at: field });
    const which = bench.view.lensTool === 'pick one' ? 'fringeOne' : 'fringeTwo';
    bench.view.lensTool = 'none';
    if (chroma < 0.02)
      bench.view.lensSaid = 'There is hardly any colour there. Pick the middle of a coloured edge.';
    else {
      const amount = bench.recipe.lens[which] || 100;
      bench.change('lens', { [which]: amount, [`${which}Hue`]: Math.round(hue) });
      bench.view.lensSaid = `Picked a fringe of hue ${Math.round(hue)}°.`;
    }
  }

  /** Field positions along a polyline of the sheet: a chord there is straight in the corrected picture, not on the sensor. */
  function followed(places: readonly Point[]): Point[] {
    const dense = places
      .slice(1)
      .flatMap((place, i) =>
        Array.from({ length: 24 }, (_, n): Point => [
          places[i][0] + ((place[0] - places[i][0]) * (n + 1)) / 24,
          places[i][1] + ((place[1] - places[i][1]) * (n + 1)) / 24
        ])
      );
    return [places[0], ...dense].flatMap((place) => {
      const field = toField(place);
      return field ? [field] : [];
    });
  }

  /** Ends the straight mark being drawn: it is snapped to the edge under it. */
  export async function endCurve(): Promise<void> {
    const drawn = corners;
    corners = [];
    if (drawn.length < 2 || !preview) return;
    const points = await preview.ask<'trace'>({ kind: 'trace', polyline: followed(drawn) });
    if (points.length < 8) {
      bench.view.lensSaid =
        'No clear edge runs there. Draw along the edge itself, with presses a little closer together.';
      return;
    }
    bench.view.lensSaid = '';
    bench.addCurves([points]);
  }

  /** Drops what is being drawn. */
  export function dropCorners(): void {
    corners = [];
    linesTool.drop();
  }

  async function lookForLines(): Promise<TrueUpItself | null> {
    if (!preview || bench.view.finding) return null;
    bench.view.finding = true;
    const { model } = bench.plan.projection;
    const plain = $state.snapshot(model) as typeof model;
    const found = await preview.ask<'lines'>({
      kind: 'lines',
      model: plain,
      focal: bench.optics.focal,
      focalKnown: focalTold(bench) !== null
    });
    bench.view.finding = false;
    return found;
  }

  /** Finds plumb and level lines by itself and trues up from them, or says why not. */
  export async function trueUpItself(): Promise<void> {
    const found = await lookForLines();
    if (found) takeFoundLines(bench, found);
  }

  /** Finds lines and shows them as marks. */
  export async function findLines(): Promise<void> {
    const found = await lookForLines();
    if (found) showFoundLines(bench, found);
  }

  /** Trues up from the marks with focal length or bow solved as well: the edges under the marks are traced for it. */
  export async function solveTogether(): Promise<void> {
    if (!preview || bench.view.finding) return;
    bench.view.finding = true;
    const traced: TracedMark[] = [];
    for (const mark of bench.recipe.lines.marks.filter(counts)) {
      const ends = [mark.a, mark.b].flatMap((end) => {
        const upright = fieldToUpright(end, plan.projection);
        return upright ? [toSheet(upright, view)] : [];
      });
      const polyline = ends.length === 2 ? followed(ends) : [];
      const points = polyline.length > 1 ? await preview.ask<'trace'>({ kind: 'trace', polyline }) : [];
      traced.push({ mark, points: points.length >= 8 ? points : [mark.a, mark.b] });
    }
    bench.view.finding = false;
    solveMarksTogether(bench, traced);
  }

  /** Looks for long edges that may be straight, and offers them. */
  export async function offerCurves(): Promise<void> {
    if (!preview) return;
    bench.view.lensSaid = 'Looking for long edges…';
    const found = await preview.ask<'find'>({ kind: 'find' });
    bench.view.offered = found.map((points, i) => ({ id: `offered-${i}`, points }));
    bench.view.lensSaid =
      found.length < 2
        ? 'No long smooth edges were found. Draw them by hand.'
        : `${found.length} long edges found, drawn dashed: take all of them, or press on those you want.`;
  }

  const curveLines = $derived(
    bench.view.step === 'lens' && bench.view.lensPage === 'bow'
      ? bench.recipe.lens.curves.map(({ id, points }) => ({ id, points: onSheet(points) }))
      : []
  );
  const offeredLines = $derived(
    bench.view.step === 'lens' && bench.view.lensPage === 'bow'
      ? bench.view.offered.map(({ id, points }) => ({ id, points: onSheet(points) }))
      : []
  );
  function onSheet(points: readonly Point[]): Point[] {
    return points.flatMap((point) => {
      const upright = fieldToUpright(point, plan.projection);
      return upright ? [toSheet(upright, view)] : [];
    });
  }

  function takeOffered(id: string): void {
    const taken = bench.view.offered.find((curve) => curve.id === id);
    bench.view.offered = bench.view.offered.filter((curve) => curve.id !== id);
    if (taken) bench.addCurves([taken.points]);
  }

  function wheel(event: WheelEvent): void {
    if (bench.view.zoom !== '1:1') return;
    event.preventDefault();
    const [dx, dy] = event.shiftKey ? [event.deltaY, 0] : [event.deltaX, event.deltaY];
    bench.view.centre = {
      x: bench.view.centre.x + dx * view.pixel,
      y: bench.view.centre.y + dy * view.pixel
    };
  }

  /** Toggles fit and 1:1 about the pointer, or the middle of the picture. */
  export function toggleZoom(): void {
    const [x, y] = toUpright(pointer ?? [sheet.width / 2, sheet.height / 2], view);
    bench.view.centre = { x, y };
    bench.view.zoom = bench.view.zoom === 'fit' ? '1:1' : 'fit';
  }

  const gridStep = $derived(Math.max(24, plan.crop.width / view.pixel / 12));
  const gridLines = $derived.by(() => {
    const [x0, y0] = toSheet([plan.crop.x, plan.crop.y], view);
    const lines: number[][] = [];
    for (let x = x0 % gridStep; x < sheet.width; x += gridStep) lines.push([x, 0, x, sheet.height]);
    for (let y = y0 % gridStep; y < sheet.height; y += gridStep) lines.push([0, y, sheet.width, y]);
    return lines;
  });
  /** The crop on the sheet, in pixels. */
  const cropBox = $derived.by(() => {
    const { crop } = plan;
    const [left, top] = toSheet([crop.x - crop.width / 2, crop.y - crop.height / 2], view);
    return { left, top, width: crop.width / view.pixel, height: crop.height / view.pixel };
  });
  /** Where only the delivered picture is shown, what lies outside the crop is cut away. */
  const clip = $derived(
    `inset(${cropBox.top}px ${sheet.width - cropBox.left - cropBox.width}px ` +
      `${sheet.height - cropBox.top - cropBox.height}px ${cropBox.left}px)`
  );
  const zero = $derived([cropBox.left, cropBox.top]);
</script>

<svelte:window onpointerup={up} />

<div
  class="frame relative flex-1 min-w-0 min-h-0 grid [grid-template:18px_1fr_/_18px_1fr] overflow-hidden"
  bind:this={frame}
>
  <div class="bg-paper"></div>
  <Ruler
    along="top"
    length={sheet.width}
    zero={zero[0]}
    scale={unit / view.pixel}
    pointer={pointer?.[0] ?? null}
  />
  <Ruler
    along="left"
    length={sheet.height}
    zero={zero[1]}
    scale={unit / view.pixel}
    pointer={pointer?.[1] ?? null}
  />
  <div
    class="relative bg-sheet overflow-hidden touch-none"
    role="application"
    aria-label="Picture"
    style:cursor={bench.view.step === 'lines' ||
    (bench.view.step === 'lens' && bench.view.lensTool !== 'none')
      ? 'crosshair'
      : bench.view.zoom === '1:1'
        ? 'grab'
        : 'default'}
    onpointermove={move}
    onpointerleave={() => (pointer = null)}
    onwheel={wheel}
  >
    <canvas
      class="block"
      bind:this={canvas}
      width={sheet.width}
      height={sheet.height}
      style:width="{sheet.width}px"
      style:height="{sheet.height}px"
      style:clip-path={whole ? 'none' : clip}
      data-testid="picture"
      data-view={JSON.stringify({ left: view.left, top: view.top, pixel: view.pixel })}
      data-crop={JSON.stringify(cropBox)}
    ></canvas>
    <div class="absolute inset-0">
      <Stage width={sheet.width} height={sheet.height} onpointerdown={(e) => down(e as never)}>
        {#if !bench.view.asShot}
          {#if bench.view.grid}
            <Layer listening={false}>
              {#each gridLines as points, i (i)}
                <Line {points} stroke="#111" strokeWidth={1.8} opacity={0.22} />
                <Line {points} stroke="#fff" strokeWidth={0.7} opacity={0.7} />
              {/each}
            </Layer>
          {/if}
          <Layer>
            {#if whole}
              <CropShape {bench} {view} editable={bench.view.step === 'crop'} />
            {/if}
            {#each offeredLines as { id, points } (id)}
              <CurveShape
                {points}
                offered
                lit={false}
                listening={bench.view.lensTool === 'none'}
                pressed={() => takeOffered(id)}
                hovered={() => {}}
              />
            {/each}
            {#each curveLines as { id, points } (id)}
              <CurveShape
                {points}
                lit={bench.view.litMark === id}
                listening={bench.view.lensTool === 'none'}
                pressed={() => {}}
                hovered={(inside) => (bench.view.litMark = inside ? id : null)}
              />
            {/each}
            {#if corners.length > 0}
              <CurveShape
                points={pointer ? [...corners, pointer] : corners}
                lit
                pressed={() => {}}
                hovered={() => {}}
                listening={false}
              />
            {/if}
            {#if bench.view.step === 'lines'}
              <LinesOverlay
                {bench}
                {view}
                {toField}
                tool={linesTool}
                dragged={(place) => (dragging = place)}
              />
            {/if}
          </Layer>
        {/if}
      </Stage>
    </div>
    {#if magnifierAt}
      {@const right = magnifierAt[0] < sheet.width / 2}
      <div
        class="magnifier absolute top-2.5 w-37.5 h-37.5 border border-[#111] [outline:1px_solid_#fff] bg-[#888] pointer-events-none"
        style:left={right ? 'auto' : '10px'}
        style:right={right ? '10px' : 'auto'}
      >
        <canvas class="block" bind:this={magnifier} width={MAGNIFIER} height={MAGNIFIER}></canvas>
        <svg width={MAGNIFIER} height={MAGNIFIER} aria-hidden="true">
          <path d="M75 0V66M75 84V150M0 75H66M84 75H150" stroke="#111" stroke-width="3" opacity="0.5" />
          <path d="M75 0V66M75 84V150M0 75H66M84 75H150" stroke="#fff" stroke-width="1" />
        </svg>
      </div>
    {/if}
    {#if bench.view.asShot}<p class="note absolute left-2.5 top-2.5 py-0.75 px-2 bg-panel border border-line">
        As shot
      </p>{/if}
    {#if fetching && bench.view.zoom === '1:1'}<p
        class="note low absolute left-2.5 top-2.5 py-0.75 px-2 bg-panel border border-line"
      >
        Fetching full size…
      </p>{/if}
    {#if status}<p
        class="note absolute left-2.5 top-2.5 py-0.75 px-2 bg-panel border border-line"
        role="status"
      >
        {status}
      </p>{/if}
  </div>
</div>

<style>
  .magnifier svg {
    position: absolute;
    inset: 0;
  }
  .note.low {
    top: auto;
    bottom: 10px;
  }
</style>
