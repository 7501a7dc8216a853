/** What the pointer does on the sheet in the Lens step: straight marks are drawn, fringes picked. */
import { addCurves } from './straighten.ts';
import type { Point } from '$core/math/frame-geometry.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { followed } from '../sheet/follow-edge.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { SheetTool } from '../sheet/sheet-tool.ts';
import { lensView } from './lens-view.svelte.ts';

/** Presses this near to each other, in pixels, end the mark. */
const SAME_PLACE = 6;
/** Less colour than this tells no hue. */
const PALE = 0.02;

export interface LensToolState extends SheetTool {
  /** Corners of the straight mark being drawn, on the sheet. */
  readonly corners: readonly Point[];
  /** Ends the straight mark being drawn: it is snapped to the edge under it. */
  end(): Promise<void>;
}

export function createLensTool(bench: Bench, sheet: SheetState): LensToolState {
  /** Field positions: they stay where they are when the view moves. */
  let pressed = $state<Point[]>([]);
  const corners = $derived(sheet.toPlaces(pressed));

  async function end(): Promise<void> {
    const drawn = corners;
    pressed = [];
    if (drawn.length < 2 || !sheet.preview) return;
    const polyline = followed(drawn, sheet.toField);
    const points = await sheet.preview.ask<'trace'>({ kind: 'trace', polyline });
    if (points.length < 8) {
      lensView(bench).said =
        'No clear edge runs there. Draw along the edge itself, with presses a little closer together.';
      return;
    }
    lensView(bench).said = '';
    addCurves(bench, [points]);
  }

  async function pick(field: Point): Promise<void> {
    if (!sheet.preview) return;
    const { hue, chroma } = await sheet.preview.ask<'hue'>({ kind: 'hue', at: field });
    const which = lensView(bench).tool === 'pick one' ? 'fringeOne' : 'fringeTwo';
    lensView(bench).tool = 'none';
    if (chroma < PALE) {
      lensView(bench).said = 'There is hardly any colour there. Pick the middle of a coloured edge.';
      return;
    }
    const amount = bench.recipe.lens[which] || 100;
    bench.change('lens', { [which]: amount, [`${which}Hue`]: Math.round(hue) });
    lensView(bench).said = `Picked a fringe of hue ${Math.round(hue)}°.`;
  }

  return {
    get cursor() {
      return lensView(bench).tool === 'none' ? '' : 'crosshair';
    },
    magnified: null,
    get corners() {
      return corners;
    },
    down({ place, empty }) {
      if (!empty || lensView(bench).tool === 'none') return false;
      const field = sheet.toField(place);
      if (!field) return true;
      if (lensView(bench).tool !== 'curve') void pick(field);
      else {
        const last = corners[corners.length - 1];
        if (last && Math.hypot(last[0] - place[0], last[1] - place[1]) < SAME_PLACE) void end();
        else pressed = [...pressed, field];
      }
      return true;
    },
    move() {},
    up() {},
    drop() {
      pressed = [];
    },
    end
  };
}

/** Looks for long edges that may be straight, and offers them. */
export async function offerCurves(bench: Bench, sheet: SheetState): Promise<void> {
  if (!sheet.preview) return;
  lensView(bench).said = 'Looking for long edges…';
  const found = await sheet.preview.ask<'find'>({ kind: 'find' });
  lensView(bench).offered = found.map((points, i) => ({ id: `offered-${i}`, points }));
  lensView(bench).said =
    found.length < 2
      ? 'No long smooth edges were found. Draw them by hand.'
      : `${found.length} long edges found, drawn dashed: take all of them, or press on those you want.`;
}
