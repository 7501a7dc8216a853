/** Tone on the picture: pointing shows the band or the place of the curve, a drag up or down changes it. */
import { toOklab } from '$core/colour/oklab.ts';
import { SRGB_TO_REC2020 } from '$core/colour/primaries.ts';
import { srgbDecode } from '$core/colour/srgb-transfer.ts';
import { apply } from '$core/math/matrix3.ts';
import { halfDiagonal, type Point } from '$core/math/frame-geometry.ts';
import { falloffGains } from '$core/optics/falloff.ts';
import { pointCurve } from '$core/steps/tone/point-curve.ts';
import type { CurveName, CurvePoint } from '$core/steps/tone/step.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { noTool } from '../sheet/no-tool.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { SheetTool } from '../sheet/sheet-tool.ts';
import { changeOf, withBand } from './band-changes.ts';
import { draggedCurve } from './curve-hand.ts';
import { toneView } from './tone-view.svelte.ts';

/** Pixels of the screen that a drag takes for a stop of a band, and for the whole height of a curve. */
const PER_STOP = 60;
const PER_CURVE = 300;

/** What of a colour as shown each curve bends: the luminance, the lightness, or one of the colours. */
function shownFor(curve: CurveName, [r, g, b]: readonly number[]): number {
  if (curve === 'curveLightness')
    return toOklab(apply(SRGB_TO_REC2020, [srgbDecode(r), srgbDecode(g), srgbDecode(b)]))[0];
  if (curve === 'curveRed') return r;
  if (curve === 'curveGreen') return g;
  if (curve === 'curveBlue') return b;
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** Where on the curve lies what is shown as `value`. */
function placeOnCurve(points: readonly CurvePoint[], value: number): number {
  const curve = pointCurve(points);
  let [low, high] = [0, 1];
  for (let i = 0; i < 20; i++) {
    const middle = (low + high) / 2;
    if (curve(middle) < value) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

export function createToneTool(bench: Bench, sheet: SheetState): SheetTool {
  const view = toneView(bench);
  let drag: { from: Point; band: number; points: CurvePoint[]; at: number } | null = null;
  let asked = 0;

  const picks = (): boolean =>
    view.picking && bench.view.step === 'tone' && (view.page === 'bands' || view.page === 'curve');

  /** The band at a place: of the light as shot, less what the falloff's correction adds. */
  async function bandAt(place: Point): Promise<number | null> {
    const field = sheet.toField(place);
    const base = field && (await sheet.preview?.ask<'base'>({ kind: 'base', at: field }));
    if (!field || base === undefined || base === null) return null;
    const { falloff, projection } = bench.inputs.plan;
    if (!falloff) return Math.floor(base);
    const unit = halfDiagonal(projection.size);
    const { width, height } = projection.size;
    const gains = new Float64Array(3);
    falloffGains(falloff, field[0], field[1], width / 2 / unit, height / 2 / unit, gains);
    return Math.floor(base + Math.log2(gains[1]));
  }

  function curveAt(place: Point): number | null {
    const shown = sheet.colourAt(place);
    return shown && placeOnCurve(bench.recipe.tone[view.curve], shownFor(view.curve, shown));
  }

  async function point(place: Point): Promise<void> {
    const number = ++asked;
    const found = view.page === 'bands' ? await bandAt(place) : curveAt(place);
    if (number === asked && !drag) view.pointed = found;
  }

  return {
    ...noTool(),
    get cursor() {
      return picks() ? 'ns-resize' : '';
    },
    down({ place }) {
      if (!picks() || !bench.recipe.tone.enabled) return false;
      if (view.page === 'curve') view.pointed = curveAt(place);
      if (view.pointed === null) return true;
      drag = {
        from: place,
        band: changeOf(bench.recipe.tone.bands, view.pointed),
        points: bench.recipe.tone[view.curve].map((each) => ({ ...each })),
        at: view.pointed
      };
      return true;
    },
    move(place) {
      if (!picks()) return;
      if (!drag) return void point(place);
      const up = drag.from[1] - place[1];
      if (view.page === 'bands')
        bench.change(
          'tone',
          { bands: withBand(bench.recipe.tone.bands, drag.at, drag.band + up / PER_STOP) },
          true
        );
      else bench.change('tone', { [view.curve]: draggedCurve(drag.points, drag.at, up / PER_CURVE) }, true);
    },
    up() {
      if (drag) bench.change('tone', {}, false);
      drag = null;
    },
    drop() {
      drag = null;
      view.picking = false;
      view.pointed = null;
    }
  };
}
