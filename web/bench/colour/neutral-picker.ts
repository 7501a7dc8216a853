/** A press on the picture makes what lies there neutral. */
import type { Point } from '$core/math/frame-geometry.ts';
import { balanceFor } from '$core/grade/white-balance.ts';
import type { Bench } from '../bench-state.svelte.ts';
import { noTool } from '../sheet/no-tool.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { SheetTool } from '../sheet/sheet-tool.ts';

/** Light beyond these tells no colour: it is clipped, or drowned in noise. */
const LIGHTEST = 0.97;
const DARKEST = 0.003;

async function pick(bench: Bench, { preview }: SheetState, at: Point): Promise<void> {
  const colour = await preview?.ask<'colour'>({ kind: 'colour', at });
  bench.view.picking = false;
  if (!colour) return;
  if (Math.max(...colour) > LIGHTEST)
    bench.view.colourSaid =
      'It is too light there: a colour is clipped. Pick a darker place that should be grey.';
  else if (Math.min(...colour) < DARKEST)
    bench.view.colourSaid =
      'It is too dark there to tell a colour. Pick a lighter place that should be grey.';
  else {
    const { warmth, tint, reached } = balanceFor(colour);
    const rounded = { warmth: Math.round(warmth * 10) / 10, tint: Math.round(tint * 10) / 10 };
    bench.change('colour', { ...rounded, enabled: true });
    bench.view.colourSaid = reached
      ? 'What you picked is neutral now.'
      : 'That place is too colourful to be a grey: it is as near to it as the sliders reach.';
  }
}

export const createNeutralPicker = (bench: Bench, sheet: SheetState): SheetTool => ({
  ...noTool(),
  get cursor() {
    return bench.view.picking ? 'crosshair' : '';
  },
  down({ place }) {
    if (!bench.view.picking) return false;
    const field = sheet.toField(place);
    if (field) void pick(bench, sheet, field);
    return true;
  },
  drop() {
    bench.view.picking = false;
  }
});
