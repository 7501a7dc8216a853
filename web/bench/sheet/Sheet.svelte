<!-- The sheet: the picture between its rulers, and over it what the step in hand draws. -->
<script lang="ts">
  import { type Snippet, onMount, untrack } from 'svelte';
  import { Layer, Stage } from 'svelte-konva';
  import type { Point } from '$core/math/frame-geometry.ts';
  import type { Matrix3 } from '$core/math/matrix3.ts';
  import type { View } from '$core/picture/tile/mesh.ts';
  import { type Drawn, openPreview } from '../../preview/preview.ts';
  import type { Histogram } from '../../preview/messages.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { ENDS, onlyClipping } from './only-clipping.ts';
  import { clippingMarks } from './clipping-marks.ts';
  import GridLines from './GridLines.svelte';
  import Magnifier from './Magnifier.svelte';
  import Overview from './Overview.svelte';
  import Ruler from './Ruler.svelte';
  import type { SheetState } from './sheet-state.svelte.ts';
  import type { ScreenSpace } from '../state/shown-colour.ts';
  import type { SheetHandle } from './sheet-handle.ts';
  import SheetHandles from './SheetHandles.svelte';
  import type { SheetTool } from './sheet-tool.ts';
  import ComparedPicture from './ComparedPicture.svelte';
  import { createOtherPicture } from './other-picture.svelte.ts';
  import { RULER } from '../room/share-room.ts';
  import { createFingers } from './two-fingers.ts';
  import type { Compare } from '../compare/compare-state.svelte.ts';
  import CompareLabels from '../compare/CompareLabels.svelte';
  import DifferencePicture from '../compare/DifferencePicture.svelte';
  import WipeLineShape from '../compare/WipeLineShape.svelte';
  import { firstSide } from '../compare/half-plane.ts';
  import { wipeHandles } from '../compare/wipe-handles.ts';
  import { boxOnSheet, drawnView, fitView, largerStacked, placedBy } from './sheet-view.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    tool: SheetTool;
    /** What the picture is compared with. */
    compare: Compare;
    /** What is drawn over the picture. */
    over: Snippet;
    /** What lies there for the keyboard to take. */
    handles: readonly SheetHandle[];
    /** Frames that may be opened next. */
    neighbours: string[];
    /** The picture alone, without its rulers. */
    alone: boolean;
    onhistogram: (histogram: Histogram) => void;
  }
  let { bench, sheet, tool, compare, over, handles, neighbours, alone, onhistogram }: Props = $props();

  /** Two pictures are shown, of which the other comes first. */
  const beside = $derived(compare.way === 'beside');
  /** Room for both, and for the rulers. */
  let both = $state({ width: 800, height: 500 });
  const ruler = $derived(alone || beside ? 0 : RULER);
  /** How much one notch of a wheel enlarges, and one of a pinch, by what the browser tells of each. */
  const WHEEL = 0.0015;
  const PINCH = 0.01;

  let frame: HTMLDivElement;
  let canvas = $state<HTMLCanvasElement>();
  let magnifier = $state<HTMLCanvasElement>();
  let marks = $state<HTMLCanvasElement>();
  let lastPicture = $state.raw<Drawn | null>(null);
  /** What the canvas tells of its picture. */
  let told = $state.raw<Record<`data-${string}`, string | number | boolean>>({});
  let panning = $state<Point | null>(null);
  let status = $state('Opening the picture…');
  let fetching = $state(false);
  /** The view that the picture on the canvas was drawn for: it is placed by it until the next one is there. */
  let shownView = $state.raw<View | null>(null);
  /** The view of the picture that was ordered last. */
  let orderedView: View | null = null;

  const plan = $derived(bench.shown.plan);
  const view = $derived(sheet.view);
  const drawn = $derived(drawnView(view, plan));
  const box = $derived(boxOnSheet(plan.crop, view));

  $effect(() => {
    if (!sheet.opened) return;
    const wanted = {
      target: 'sheet' as const,
      stages: bench.shown.stages,
      view: $state.snapshot(drawn) as View,
      draft: bench.view.moving,
      count: countsCrop || bench.showsSharpened ? null : plan.crop,
      about: untrack(() => sheet.pointer)
    };
    untrack(() => {
      orderedView = wanted.view;
      told = { ...told, 'data-sharp': false };
      sheet.preview?.draw(wanted);
    });
  });

  /** Where the sheet shows a part, all of the crop is drawn besides, to be counted: half as finely while a control moves. */
  const countsCrop = $derived(!sheet.fits && !bench.view.histogramOfSeen);
  $effect(() => {
    if (!sheet.opened || !countsCrop || bench.showsSharpened) return;
    const draft = bench.view.moving;
    const { width, height } = untrack(() => sheet.size);
    const size = draft ? { width: width >> 1, height: height >> 1 } : { width, height };
    const wanted = {
      target: 'crop' as const,
      stages: bench.shown.stages,
      view: fitView(plan.crop, size, 0),
      draft,
      count: plan.crop
    };
    untrack(() => sheet.preview?.draw(wanted));
  });

  let otherCanvas = $state<HTMLCanvasElement>();
  const other = untrack(() => createOtherPicture(bench, sheet, compare, () => drawn));
  $effect(() => {
    if (otherCanvas && other.picture) put(other.picture, otherCanvas);
  });

  function canvasOf(picture: Drawn): HTMLCanvasElement {
    const aside = document.createElement('canvas');
    put(picture, aside);
    return aside;
  }
  /** The end whose clipping alone is shown, while a key is held and a setting that moves it is dragged. */
  const end = $derived(
    bench.view.onlyClipping && bench.view.moving ? (ENDS[bench.view.movingName] ?? null) : null
  );
  $effect(() => {
    // A new picture is put there as it comes; this is for a new canvas, and for another end.
    const [target, of] = [canvas, end];
    untrack(() => target && lastPicture && put(seen(lastPicture, of), target));
  });
  function seen(picture: Drawn, of: typeof end): Drawn {
    return of ? { ...picture, pixels: onlyClipping(picture.pixels, of, bench.view.clipping) } : picture;
  }
  function put({ pixels, width, height, space }: Drawn, target: HTMLCanvasElement): void {
    if (target.width !== width) target.width = width;
    if (target.height !== height) target.height = height;
    const colorSpace = space as ScreenSpace;
    // The canvas keeps the space of its first picture; others are converted to it.
    target
      .getContext('2d', { colorSpace: bench.wideScreen ? 'display-p3' : 'srgb' })!
      .putImageData(new ImageData(pixels, width, height, { colorSpace }), 0, 0);
  }
  function show(picture: Drawn): void {
    const { target, histogram } = picture;
    if (histogram) onhistogram(histogram);
    if (target === 'crop') return;
    if (target === 'magnifier') {
      if (magnifier) put(picture, magnifier);
    } else if (target === 'other') {
      other.took(picture);
    } else if (target !== 'sheet') sheet.drawnAside(picture, canvasOf(picture));
    else if (canvas) {
      put(seen(picture, end), canvas);
      shownView = picture.view;
      lastPicture = picture;
      sheet.shows(picture);
      told = {
        'data-drawn': Number(told['data-drawn'] ?? 0) + 1,
        'data-milliseconds': picture.milliseconds.toFixed(1),
        'data-sharp': picture.sharp && !picture.draft && picture.view === orderedView,
        'data-rest': !picture.draft,
        'data-at': performance.now()
      };
    }
  }
  /** Where the picture lies on the sheet: what was drawn for another view is moved and stretched meanwhile. */
  const placed = $derived(placedBy(shownView ?? drawn, view));

  $effect(() => {
    const { clipping } = bench.view;
    if (clipping === 'off' || !marks || !lastPicture) return;
    const { pixels: data, width, height } = lastPicture;
    const { size } = sheet;
    const pixels = clippingMarks({ data, width, height }, placed, size, clipping);
    marks.width = size.width;
    marks.height = size.height;
    marks.getContext('2d')!.putImageData(new ImageData(pixels, size.width, size.height), 0, 0);
  });

  onMount(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      sheet.size = {
        width: Math.max(100, Math.floor(width)),
        height: Math.max(100, Math.floor(height))
      };
    });
    observer.observe(frame);
    const preview = openPreview(
      {
        frameId: bench.frame.id,
        size: bench.optics.size,
        proxy: bench.frame.proxy!,
        toWorking: $state.snapshot(bench.facts.toWorking) as Matrix3
      },
      {
        opened() {
          status = '';
          sheet.open();
        },
        failed: (message) => (status = message),
        fetching: (waiting) => (fetching = waiting),
        missing: (message) => (status = message),
        drawn: show
      }
    );
    sheet.connect(preview);
    preview.ahead(untrack(() => neighbours));
    return () => {
      observer.disconnect();
      sheet.close();
    };
  });

  const within = (element: HTMLElement, event: PointerEvent | MouseEvent): Point => {
    const box = element.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  const at = (event: PointerEvent | MouseEvent): Point => within(frame, event);

  interface Pressed {
    target: { getStage(): unknown; draggable?: () => boolean };
    evt: PointerEvent;
  }

  function down({ target, evt }: Pressed): void {
    const place = at(evt);
    const empty = (target as unknown) === target.getStage();
    const moves = evt.button === 1 || (evt.altKey && !tool.heedsAlt) || bench.view.hand;
    if (evt.button !== 0 && !moves) return;
    const draggable = target.draggable?.() ?? false;
    if (!moves && !bench.view.asShot && tool.down({ place, empty, draggable, event: evt })) return;
    if (!sheet.fits && (empty || moves)) panning = place;
  }
  const fingers = createFingers();
  function fingerDown(event: PointerEvent): void {
    if (event.pointerType !== 'touch') return;
    if (fingers.down(event.pointerId, at(event))) {
      tool.drop();
      panning = null;
    }
    // A further finger presses nothing.
    if (fingers.gesture) event.stopPropagation();
  }
  function move(event: PointerEvent): void {
    const place = at(event);
    const pinched = fingers.move(event.pointerId, place);
    if (pinched) {
      const { from, to, factor } = pinched;
      sheet.zoomBy(factor, from);
      sheet.moveBy(to[0] - from[0], to[1] - from[1]);
    }
    if (fingers.gesture) return;
    sheet.pointer = place;
    if (panning) {
      sheet.moveBy(place[0] - panning[0], place[1] - panning[1]);
      panning = place;
    } else tool.move(place, event);
  }
  function up(event: PointerEvent): void {
    if (!panning && !fingers.gesture) tool.up(event);
    panning = null;
    fingers.up(event.pointerId);
  }
  function cancel(event: PointerEvent): void {
    tool.drop();
    panning = null;
    fingers.up(event.pointerId);
  }
  function wheel(event: WheelEvent): void {
    event.preventDefault();
    if (event.shiftKey) sheet.moveBy(-event.deltaY - event.deltaX, 0);
    // A pinch is told as a wheel with Ctrl.
    else
      sheet.zoomBy(
        Math.exp(-event.deltaY * (event.ctrlKey ? PINCH : WHEEL)),
        within(event.currentTarget as HTMLElement, event)
      );
  }
  /** What is done to the other of two pictures is done to both. */
  function otherMoved(event: PointerEvent): void {
    const pane = event.currentTarget as HTMLElement;
    sheet.pointer = within(pane, event);
    if (event.buttons === 0) return;
    pane.setPointerCapture(event.pointerId);
    sheet.moveBy(event.movementX, event.movementY);
  }
  const stacked = $derived(beside && largerStacked(plan.crop.width / plan.crop.height, both));
  const template = $derived.by(() => {
    const all = 'minmax(0, 1fr)';
    if (!beside) return `${ruler}px ${all} / ${ruler}px ${all}`;
    return stacked ? `${all} ${all} / ${all}` : `${all} / ${all} ${all}`;
  });
  const wipes = $derived(compare.way === 'wipe' && !bench.view.asShot);
  const wiped = $derived(
    firstSide(compare.line, sheet.size)
      .map(([x, y]) => `${x}px ${y}px`)
      .join(', ')
  );
  const allHandles = $derived(wipes ? [...wipeHandles(compare, sheet.size), ...handles] : handles);

  /** Where only the delivered picture is shown, what lies outside the crop is cut away. */
  const clipTo = ({ left, top, width, height }: typeof box): string =>
    `inset(${top}px ${sheet.size.width - left - width}px ${sheet.size.height - top - height}px ${left}px)`;
  const clip = $derived(clipTo(box));
  const cursor = $derived(
    panning ? 'grabbing' : bench.view.hand ? 'grab' : tool.cursor || (sheet.fits ? 'default' : 'grab')
  );
</script>

{#snippet theOther()}
  <ComparedPicture
    {compare}
    placed={other.placed}
    {box}
    bind:canvas={otherCanvas}
    pixelated={sheet.zoom > 1.001}
    drawn={other.count}
  />
{/snippet}
<svelte:window onpointerup={up} onpointercancel={cancel} />

<div
  class="relative grid min-h-0 min-w-0 flex-1 overflow-hidden"
  style:grid-template={template}
  bind:clientWidth={() => both.width, (width) => (both = { ...both, width })}
  bind:clientHeight={() => both.height, (height) => (both = { ...both, height })}
>
  {#if beside}
    <div
      class="relative touch-none overflow-hidden bg-sheet {stacked ? 'border-b' : 'border-r'} border-line"
      role="application"
      aria-label="The other picture"
      style:cursor={sheet.fits ? 'default' : 'grab'}
      onwheel={wheel}
      onpointermove={otherMoved}
      onpointerleave={() => (sheet.pointer = null)}
      data-testid="beside"
    >
      <div class="absolute inset-0" style:clip-path={sheet.whole ? 'none' : clipTo(other.box)}>
        {@render theOther()}
      </div>
      <p class="note" data-testid="other-label">{compare.label}</p>
    </div>
  {:else if alone}
    <span></span><span></span><span></span>
  {:else}
    <div class="bg-paper"></div>
    <Ruler
      along="top"
      length={sheet.size.width}
      zero={box.left}
      scale={sheet.zoom}
      pointer={sheet.pointer?.[0] ?? null}
    />
    <Ruler
      along="left"
      length={sheet.size.height}
      zero={box.top}
      scale={sheet.zoom}
      pointer={sheet.pointer?.[1] ?? null}
    />
  {/if}
  <div
    class="relative touch-none overflow-hidden bg-sheet"
    bind:this={frame}
    role="application"
    aria-label="Picture"
    style:cursor
    onpointerdowncapture={fingerDown}
    onpointermove={move}
    onpointerleave={() => (sheet.pointer = null)}
    onwheel={wheel}
  >
    <div class="absolute inset-0" style:clip-path={sheet.whole ? 'none' : clip}>
      {#key bench.wideScreen}<canvas
          class="absolute max-w-none origin-top-left"
          bind:this={canvas}
          width={drawn.width}
          height={drawn.height}
          style:left="{placed.left}px"
          style:top="{placed.top}px"
          style:width="{placed.width}px"
          style:height="{placed.height}px"
          style:image-rendering={sheet.zoom > 1.001 ? 'pixelated' : 'auto'}
          {...told}
          data-testid="picture"
          data-view={JSON.stringify({ left: view.left, top: view.top, pixel: view.pixel })}
          data-crop={JSON.stringify(box)}
        ></canvas>{/key}
      {#if bench.view.clipping !== 'off'}
        <canvas class="pointer-events-none absolute inset-0" bind:this={marks} data-testid="clipping"
        ></canvas>
      {/if}
    </div>
    {#if compare.way === 'change' && lastPicture && other.picture && !bench.view.asShot}
      <DifferencePicture
        one={other.picture}
        other={lastPicture}
        shift={other.shift}
        {placed}
        clip={sheet.whole ? 'none' : clip}
      />
    {/if}
    {#if wipes}
      <div
        class="pointer-events-none absolute inset-0 bg-sheet"
        style:clip-path={wiped ? `polygon(${wiped})` : 'inset(100%)'}
        data-testid="wiped"
      >
        <div class="absolute inset-0" style:clip-path={sheet.whole ? 'none' : clipTo(other.box)}>
          {@render theOther()}
        </div>
      </div>
      <CompareLabels {compare} size={sheet.size} />
    {/if}
    <div class="absolute inset-0">
      <Stage width={sheet.size.width} height={sheet.size.height} onpointerdown={(e) => down(e as never)}>
        {#if !bench.view.asShot}
          {#if bench.view.grid}
            <Layer listening={false}><GridLines size={sheet.size} {box} /></Layer>
          {/if}
          <Layer>
            {@render over()}
          </Layer>
          {#if wipes}<Layer><WipeLineShape {compare} size={sheet.size} /></Layer>{/if}
        {/if}
      </Stage>
    </div>
    {#if !bench.view.asShot && sheet.opened}<SheetHandles handles={allHandles} />{/if}
    {#if tool.magnified && sheet.opened}
      <Magnifier {bench} {sheet} at={tool.magnified} bind:canvas={magnifier} />
    {/if}
    {#if !sheet.fits && sheet.opened}<Overview {bench} {sheet} />{/if}
    {#if bench.view.asShot}<p class="note">As shot</p>{:else if beside}<p class="note">Now</p>{/if}
    {#if compare.way === 'change' && !bench.view.asShot}
      <p class="note" data-testid="other-label">{compare.label}, against now</p>
    {/if}
    {#if bench.showsSharpened}<p class="note" data-testid="sharpened-label">Where sharpening acts</p>{/if}
    {#if fetching && sheet.zoom > 0.6}<p class="note top-auto! bottom-2.5">Fetching full size…</p>{/if}
    {#if status}<p class="note" role="status">{status}</p>{/if}
  </div>
</div>

<style>
  .note {
    position: absolute;
    left: 10px;
    top: 10px;
    padding: 3px 8px;
    background: var(--panel);
    border: 1px solid var(--line);
  }
</style>
