/** Colour on the picture: picking what is to be neutral, and dragging a hue where it is pointed at. */
import { hueAndChroma } from '$core/colour/oklab.ts';
import type { Point } from '$core/math/frame-geometry.ts';
import { apply } from '$core/math/matrix3.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { noTool } from '../sheet/no-tool.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { SheetTool } from '../sheet/sheet-tool.ts';
import { changedNode, heldNode } from './hue-nodes.ts';
import { colourAt, pickNeutral } from './neutral-places.ts';
import { colourView } from './colour-view.svelte.ts';

/** Percent of a change for each pixel of the screen that a drag goes up. */
const PER_PIXEL = 0.5;
/** Chroma below which there is no hue to tell. */
const GREY = 0.012;
/** How far about a grey place a hue is looked for, in field units, and at how many places. */
const BESIDE = [0.006, 0.015, 0.03, 0.06] as const;
const ABOUT = 8;

export function createColourTool(bench: Bench, sheet: SheetState): SheetTool {
  const view = colourView(bench);
  let drag: { from: Point; at: number; value: number } | null = null;
  /** Counts presses, since what lies under them is asked for. */
  let turns = 0;

  /** Hue of the colour at a place as it comes to the hues, in degrees; null where it is grey. */
  async function hueAt(field: Point): Promise<number | null> {
    const colour = await colourAt(sheet, field);
    if (!colour) return null;
    const { hue, chroma } = hueAndChroma(apply(bench.linear, colour));
    return chroma < GREY ? null : hue;
  }

  /** The hue of the nearest place about a grey one that has any. */
  async function hueBeside([x, y]: Point): Promise<number | null> {
    for (const away of BESIDE) {
      const places = Array.from({ length: ABOUT }, (_, i): Point => {
        const turn = (2 * Math.PI * i) / ABOUT;
        return [x + away * Math.cos(turn), y + away * Math.sin(turn)];
      });
      const found = await Promise.all(places.map(hueAt));
      const hue = found.find((each) => each !== null);
      if (hue !== undefined && hue !== null) return hue;
    }
    return null;
  }

  async function beginHue(place: Point, field: Point): Promise<void> {
    const turn = ++turns;
    const own = await hueAt(field);
    const hue = own ?? (await hueBeside(field));
    // The hand let go, or began anew, while it was looked for.
    if (turn !== turns) return;
    view.said =
      hue === null
        ? 'What lies there is grey, and so is all about it: it has no hue.'
        : own === null
          ? `Grey has no hue: that beside it is dragged, ${Math.round(hue)}°.`
          : '';
    if (hue === null) return;
    const nodes = heldNode(bench.recipe.colour.hues, hue);
    view.hueNode = nodes.held;
    bench.change('colour', { hues: nodes.hues, enabled: true }, true);
    const node = bench.recipe.colour.hues.find(({ at }) => at === nodes.held)!;
    drag = { from: place, at: nodes.held, value: node[view.hueCurve] };
  }

  return {
    ...noTool(),
    get cursor() {
      return view.tool === 'none' ? '' : view.tool === 'hue' ? 'ns-resize' : 'crosshair';
    },
    down({ place }) {
      const field = view.tool === 'none' ? null : sheet.toField(place);
      if (!field) return false;
      if (view.tool === 'hue') void beginHue(place, field);
      else void pickNeutral(bench, sheet, field, view.tool === 'another');
      return true;
    },
    move(place) {
      if (!drag) return;
      const value = drag.value + (drag.from[1] - place[1]) * PER_PIXEL;
      bench.change(
        'colour',
        { hues: changedNode(bench.recipe.colour.hues, drag.at, { [view.hueCurve]: value }) },
        true
      );
    },
    up() {
      turns++;
      if (drag) bench.change('colour', {}, false);
      drag = null;
    },
    drop() {
      drag = null;
      view.tool = 'none';
    }
  };
}
