/** State of the sheet: how much of the picture is seen, where the pointer is, and what the picture can be asked. */
import type { Point } from '$core/math/frame-geometry.ts';
import { halfDiagonal } from '$core/math/frame-geometry.ts';
import { fieldToUpright, uprightToField } from '$core/picture/geometry/projection.ts';
import type { View } from '$core/picture/tile/mesh.ts';
import { borderedSize, hasBorder } from '$core/steps/finish/border/border-layout.ts';
import type { StageInputs } from '$core/render/stages.ts';
import type { Aside } from '../../preview/messages.ts';
import type { Drawn, Preview } from '../../preview/preview.ts';
import { type ScreenSpace, inSrgb } from '../state/shown-colour.ts';
import type { StepName } from '$core/recipe/steps.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import {
  ZOOMS,
  fitView,
  keptWithin,
  nextZoom,
  shownArea,
  toSheet,
  toUpright,
  viewAbout,
  zoomedAbout
} from './sheet-view.ts';

/** The zoom and the place that the next frame takes over: the place by its share of the crop. */
export interface KeptPlace {
  zoom: number | null;
  at: Point;
}

/** Steps that show what lies about the crop: elsewhere it is of no use. */
const SURROUNDINGS: readonly StepName[] = ['lines', 'crop'];

/** Milliseconds after which a small picture of another state is given up. */
const STATE_TIME = 10_000;
const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

/** `margin` is the free space about the picture. */
export function createSheet(bench: Bench, kept: KeptPlace | null, margin: () => number) {
  let size = $state({ width: 800, height: 500 });
  let pointer = $state<Point | null>(null);
  let opened = $state(false);
  /** Screen pixels for one pixel of the full-size picture; null shows all of it. */
  let zoom = $state<number | null>(kept?.zoom ?? null);
  /** Upright point in the middle of the sheet while it is zoomed. */
  let centre = $state.raw<Point>([0, 0]);
  let preview: Preview | null = null;
  /** The picture that the sheet shows. */
  let shownPicture: Pick<Drawn, 'view' | 'width' | 'height' | 'pixels' | 'space'> | null = null;
  let aside: { target: Aside; view: View; drawn: (picture: HTMLCanvasElement | null) => void }[] = [];
  /** Pictures of other states are drawn one after another, whoever asks for them. */
  let states: Promise<unknown> = Promise.resolve();

  const plan = $derived(bench.shown.plan);
  /** The surroundings of the crop are shown as well: they are of no use while the glass is looked at. */
  const whole = $derived(SURROUNDINGS.includes(bench.view.step) && !bench.view.asShot);
  /** While the frame is finished its border is shown as well. */
  const bordered = $derived(
    bench.view.step === 'finish' && !bench.view.asShot && hasBorder(bench.recipe.finish)
  );
  const area = $derived.by(() => {
    const shown = shownArea(plan, whole);
    if (!bordered) return shown;
    const { width, height } = borderedSize(bench.recipe.finish, plan.output);
    return {
      ...shown,
      width: (shown.width * width) / plan.output.width,
      height: (shown.height * height) / plan.output.height
    };
  });
  const unit = $derived(1 / halfDiagonal(bench.optics.size));
  const fit = $derived(fitView(area, size, margin()));
  const view = $derived<View>(zoom === null ? fit : viewAbout(centre, unit / zoom, size));
  if (kept && kept.zoom !== null) {
    const { crop } = plan;
    centre = [crop.x + kept.at[0] * crop.width, crop.y + kept.at[1] * crop.height];
  }

  const toPlace = (field: Point): Point | null => {
    const upright = fieldToUpright(field, plan.projection);
    return upright && toSheet(upright, view);
  };
  const zoomTo = (wanted: number, about: Point = pointer ?? [size.width / 2, size.height / 2]): void => {
    const next = Math.min(ZOOMS[1], Math.max(ZOOMS[0], wanted));
    // Below the fit there is nothing more to see.
    if (next <= unit / fit.pixel) {
      zoom = null;
      return;
    }
    centre = zoomedAbout(about, view, unit / next);
    zoom = next;
  };

  /** The frame as its recipe stands, in a small view of its own; null when a newer one was asked for meanwhile. */
  function drawAside(
    target: Aside,
    asideView: View,
    stages: StageInputs = bench.inputs.stages
  ): Promise<HTMLCanvasElement | null> {
    if (!opened || !preview) return Promise.resolve(null);
    for (const waiting of aside.filter((other) => other.target === target)) waiting.drawn(null);
    aside = aside.filter((other) => other.target !== target);
    preview.draw({ target, stages, view: asideView, draft: true });
    return new Promise((resolve) => aside.push({ target, view: asideView, drawn: resolve }));
  }

  return {
    get size() {
      return size;
    },
    set size(next) {
      size = next;
    },
    get pointer() {
      return pointer;
    },
    set pointer(next) {
      pointer = next;
    },
    get opened() {
      return opened;
    },
    get whole() {
      return whole;
    },
    get area() {
      return area;
    },
    get view() {
      return view;
    },
    /** One pixel of the full-size picture in upright units. */
    get unit() {
      return unit;
    },
    get fits() {
      return zoom === null;
    },
    /** Screen pixels for one pixel of the full-size picture, as it is seen now. */
    get zoom() {
      return unit / view.pixel;
    },
    toField: (place: Point): Point | null => uprightToField(toUpright(place, view), plan.projection),
    toPlace,
    /** Those of the field positions that lie in the picture. */
    toPlaces: (fields: readonly Point[]): Point[] =>
      fields.flatMap((field) => {
        const place = toPlace(field);
        return place ? [place] : [];
      }),
    zoomTo,
    zoomBy: (factor: number, about?: Point): void => zoomTo((unit / view.pixel) * factor, about),
    zoomStep: (direction: 1 | -1): void => zoomTo(nextZoom(unit / view.pixel, direction)),
    toggleZoom(): void {
      if (zoom === null) zoomTo(1);
      else zoom = null;
    },
    showAll(): void {
      zoom = null;
    },
    moveBy(dx: number, dy: number): void {
      if (zoom === null) return;
      const [x, y] = toUpright([size.width / 2 - dx, size.height / 2 - dy], view);
      centre = keptWithin([x, y], area);
    },
    moveTo(next: Point): void {
      if (zoom !== null) centre = keptWithin(next, area);
    },
    /** What the next frame takes over. */
    kept(): KeptPlace {
      const { crop } = plan;
      const [x, y] = toUpright([size.width / 2, size.height / 2], view);
      return { zoom, at: [(x - crop.x) / crop.width, (y - crop.y) / crop.height] };
    },
    shows(picture: Drawn): void {
      shownPicture = picture;
    },
    /** Mean of the colours that are shown about a place, as sRGB encodes them, 0..1; null where there is no picture. */
    colourAt(place: Point): [number, number, number] | null {
      if (!shownPicture) return null;
      const { view: of, width, height, pixels, space } = shownPicture;
      const [x, y] = toUpright(place, view);
      const column = Math.floor(((x - of.left) / of.pixel) * (width / of.width));
      const row = Math.floor(((y - of.top) / of.pixel) * (height / of.height));
      const sum = [0, 0, 0, 0];
      for (let v = Math.max(0, row - 1); v <= Math.min(height - 1, row + 1); v++)
        for (let u = Math.max(0, column - 1); u <= Math.min(width - 1, column + 1); u++)
          if (pixels[(v * width + u) * 4 + 3] > 0)
            for (let c = 0; c < 4; c++) sum[c] += pixels[(v * width + u) * 4 + c] / 255;
      if (sum[3] === 0) return null;
      return inSrgb([sum[0] / sum[3], sum[1] / sum[3], sum[2] / sum[3]], space as ScreenSpace);
    },
    connect(to: Preview): void {
      preview = to;
    },
    open(): void {
      opened = true;
    },
    close(): void {
      preview?.close();
      preview = null;
    },
    get preview() {
      return preview;
    },
    drawAside,
    /** Another state of the frame in a small view; null where it cannot be drawn now. */
    drawState(view: View, stages: StageInputs): Promise<HTMLCanvasElement | null> {
      const drawn = states.then(() =>
        Promise.race([drawAside('state', view, stages), pause(STATE_TIME).then(() => null)])
      );
      states = drawn;
      return drawn;
    },
    drawnAside({ target, view: of }: Pick<Drawn, 'target' | 'view'>, picture: HTMLCanvasElement): void {
      const isFor = (waiting: (typeof aside)[number]): boolean =>
        waiting.target === target && waiting.view === of;
      for (const waiting of aside.filter(isFor)) waiting.drawn(picture);
      aside = aside.filter((waiting) => !isFor(waiting));
    }
  };
}

export type SheetState = ReturnType<typeof createSheet>;
