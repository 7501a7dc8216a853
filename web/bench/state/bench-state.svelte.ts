/** State of the bench for one frame: the recipe with its history, what is shown, and the derived plan and readings. */
import { MediaQuery } from 'svelte/reactivity';
import { deliverableSchema } from '$core/picture/output/deliverable-schema.ts';
import type { Point } from '$core/math/frame-geometry.ts';
import { halfDiagonal } from '$core/math/frame-geometry.ts';
import type { FrameEdges } from '$server/frames/frame-edges.ts';
import { type Curve, thinned } from '$core/optics/curve.ts';
import { solveCurves } from '$core/steps/lens/solve-curves.ts';
import { MOST_CURVE_POINTS } from '$core/steps/lens/step.ts';
import type { Guide } from '$core/steps/crop/snap-crop.ts';
import type { TrueUpMode } from '$core/steps/lines/solve-rotation.ts';
import { linearMatrix } from '$core/steps/colour/balance-stage.ts';
import { IDENTITY, type Matrix3 } from '$core/math/matrix3.ts';
import type { ScreenSpace } from './shown-colour.ts';
import type { Vector3 } from '$core/math/vector3.ts';
import { renderInputs } from '$core/render/render-inputs.ts';
import { measureReadings } from '$core/render/readings/measure.ts';
import { asShot, completeRecipe } from '$core/recipe/recipe.ts';
import type { Recipe } from '$core/recipe/recipe.ts';
import type { StepName } from '$core/recipe/steps.ts';
import type { FrameChoice } from '$server/lenses/lens-choice.ts';
import type { FrameRow } from '$server/frames/frame-row.ts';
import { type History, beginHistory, moving, settled, stepBack, stepForth } from './history.ts';
import type { Histogram } from '../../preview/messages.ts';
import type { CurveName } from '$core/steps/tone/step.ts';
import type { Clipping } from '../sheet/clipping-marks.ts';
import { createSaver } from './save-recipe.svelte.ts';

export type LensPage = 'profile' | 'bow' | 'colour' | 'falloff';
/** What a press on the picture does in the Lens step. */
export type LensTool = 'none' | 'curve' | 'pick one' | 'pick two';

export type ColourPage = 'balance' | 'hues' | 'zones' | 'cast' | 'primaries' | 'mono' | 'looks';

export type TonePage = 'light' | 'local' | 'bands' | 'levels' | 'curve';

export type LinesPage = 'marks' | 'hand' | 'lengths' | 'residuals';
/** What a press on the picture does in the Lines step. */
export type LinesTool = 'plumb' | 'level' | 'edge' | 'choose' | 'rectangle' | 'length';

/** Points of one straight mark: half of what a recipe holds, which is plenty. */
const MOST_POINTS = MOST_CURVE_POINTS / 2;

export function createBench(frame: FrameRow, startChoice: FrameChoice) {
  const facts = frame.facts!;
  let choice = $state.raw<FrameChoice>(startChoice);
  let measured = $state.raw<FrameEdges | null>(null);
  const edges = $derived(measured?.edges ?? null);
  let history = $state.raw<History<Recipe>>(beginHistory(completeRecipe(frame.recipe)));
  const recipe = $derived(history.present);
  const saver = createSaver(frame.id, frame.version);

  const view = $state({
    step: 'lens' as StepName,
    asShot: false,
    /** Any drag moves the picture. */
    hand: false,
    grid: false,
    /** Which clipping is marked on the picture. */
    clipping: 'off' as Clipping,
    tool: 'plumb' as LinesTool,
    /** The Crop step: lines over the crop, whether it comes to rest on them, and whether other ratios follow. */
    guide: 'thirds' as Guide,
    snap: true,
    cropAlone: false,
    /** Resolution at which the printed size of the crop is told. */
    ppi: deliverableSchema.properties.ppi.default as number,
    colourPage: 'balance' as ColourPage,
    /** What a press on the picture picks: what is to be neutral, another such place, or a hue to drag. */
    colourTool: 'none' as 'none' | 'neutral' | 'another' | 'hue',
    /** What the last pick said. */
    colourSaid: '',
    /** The node on the strip of hues that is in hand, by its place, and which of its curves is dragged. */
    hueNode: null as number | null,
    hueCurve: 'chroma' as 'hue' | 'chroma' | 'light',
    tonePage: 'light' as TonePage,
    /** A drag on the picture changes what lies there: of the curve, or of its band. */
    tonePicking: false,
    curve: 'curve' as CurveName,
    /** What tone by itself last said, and the bands that the picture holds. */
    toneSaid: '',
    held: null as { darkest: number; lightest: number } | null,
    /** The band, and the place of the curve, that the pointer is on. */
    pointed: null as number | null,
    linesPage: 'marks' as LinesPage,
    /** Ids of the marks that are chosen together. */
    chosen: [] as string[],
    /** The edge that the level tool was last drawn along. */
    edge: null as string | null,
    /** The sheet uses the colours of Display P3 where the screen has them. */
    wide: true,
    moving: false,
    /** The setting that moves. */
    movingName: '',
    /** A key asks to see only what clips while an end is dragged. */
    onlyClipping: false,
    litMark: null as string | null,
    lensPage: 'profile' as LensPage,
    lensTool: 'none' as LensTool,
    /** Edges found on the picture and offered as straight marks. */
    offered: [] as Curve[],
    /** What the last measurement of the lens said. */
    lensSaid: '',
    /** What truing up last said, and whether it is under way. */
    linesSaid: '',
    finding: false,
    /** Lines were looked for, and none was sure enough to true up from. */
    noLines: false,
    /** What is solved from the marks beside the rotation. */
    solveFocal: false,
    solveBow: false,
    mode: 'verticals' as TrueUpMode
  });
  /** The histogram of what the sheet shows. */
  let histogram = $state.raw<Histogram | null>(null);

  /** Working colours, as shot, of the places picked as grey. */
  let greys = $state.raw<readonly Vector3[]>([]);

  const wideScreen = new MediaQuery('color-gamut: p3', false);
  const space = $derived<ScreenSpace>(wideScreen.current && view.wide ? 'display-p3' : 'srgb');
  const inputs = $derived(renderInputs(recipe, facts, choice, { space }));
  const { optics, profile, terms, plan } = $derived(inputs);
  /** As text, so that what follows from it is made anew only when it changes. */
  const linearKey = $derived(JSON.stringify(linearMatrix(recipe.colour, facts) ?? IDENTITY));
  const linear = $derived(JSON.parse(linearKey) as Matrix3);
  const readings = $derived(
    measureReadings(plan, optics, {
      marks: recipe.lines.marks,
      curves: recipe.lens.curves,
      edges,
      rectangle: recipe.lines.rectangle,
      greys,
      linear
    })
  );
  /** The frame without its recipe, all of it. */
  const shotInputs = $derived(renderInputs(asShot(), facts, choice, { space }));

  function go(next: History<Recipe>): void {
    const changed = next.present !== history.present || next.past !== history.past;
    history = next;
    view.moving = next.before !== null;
    if (changed && next.before === null) saver.save(next.present);
  }

  /** Changes settings of steps. While a control moves, `moves` keeps the changes one step of the history. */
  function changeSteps(patch: { [S in StepName]?: Partial<Recipe[S]> }, moves = false): void {
    const changed = Object.entries(patch).map(([step, settings]) => [
      step,
      { ...recipe[step as StepName], ...settings }
    ]);
    const next = moving(history, { ...recipe, ...Object.fromEntries(changed) });
    go(moves ? next : settled(next));
  }

  function change<S extends StepName>(step: S, settings: Partial<Recipe[S]>, moves = false): void {
    view.movingName = moves ? (Object.keys(settings)[0] ?? '') : '';
    changeSteps({ [step]: settings }, moves);
  }

  return {
    frame,
    facts,
    view,
    saver,
    get optics() {
      return optics;
    },
    get choice() {
      return choice;
    },
    /** Profiles at hand changed: another was chosen, remembered or stored. */
    setChoice(next: FrameChoice) {
      choice = next;
    },
    get histogram() {
      return histogram;
    },
    setHistogram(found: Histogram) {
      histogram = found;
    },
    setGreys(found: readonly Vector3[]) {
      greys = found;
    },
    /** Whether the screen has the colours of Display P3. */
    get wideScreen() {
      return wideScreen.current;
    },
    /** The colours that the sheet is drawn in. */
    get space() {
      return space;
    },
    get edges() {
      return edges;
    },
    setEdges(found: FrameEdges) {
      measured = found;
    },
    /** Working colours as shot to those that the hues and casts are told from: balanced, with their primaries. */
    get linear() {
      return linear;
    },
    /** What pictures of the frame by its recipe are made from. */
    get inputs() {
      return inputs;
    },
    /** What the sheet shows: by the recipe, or as shot. */
    get shown() {
      return view.asShot ? shotInputs : inputs;
    },
    get notices() {
      return terms?.notices ?? [];
    },
    get recipe() {
      return recipe;
    },
    get terms() {
      return terms;
    },
    get profile() {
      return profile;
    },
    get plan() {
      return plan;
    },
    get readings() {
      return readings;
    },
    get canUndo() {
      return history.past.length > 0 || history.before !== null;
    },
    get canRedo() {
      return history.future.length > 0;
    },
    change,
    changeSteps,
    /** Ends a change in progress. */
    commit: () => go(settled(history)),
    undo: () => go(stepBack(history)),
    redo: () => go(stepForth(history)),
    /** Takes over a recipe that another window saved. */
    adopt(other: Recipe) {
      history = settled(moving(history, other));
    },
    /** Adds straight marks; long ones are thinned to what a recipe holds. */
    addCurves(added: Point[][]) {
      const curves = added.map((points) => ({
        id: crypto.randomUUID().slice(0, 8),
        points: thinned(points, MOST_POINTS)
      }));
      change('lens', { curves: [...recipe.lens.curves, ...curves] });
    },
    /** Solves the distortion from the straight marks. */
    straighten(): void {
      const projection = plan.projection.model.projection;
      const solution = solveCurves(recipe.lens.curves, { projection, focal: optics.focal, robust: true });
      if (!solution.ok) {
        view.lensSaid = solution.reason;
        return;
      }
      const { terms: found, centre } = solution;
      const unit = halfDiagonal(optics.size);
      change('lens', {
        solved: { projection, terms: found, centre },
        distortion: 100,
        bow: 0,
        wave: 0,
        enabled: true
      });
      view.lensSaid =
        `Bows of ${(solution.before * unit).toFixed(1)} px are down to ${(solution.after * unit).toFixed(2)} px, ` +
        `from ${solution.residuals.length - solution.leftOut.length} edges` +
        (solution.leftOut.length > 0
          ? `; ${solution.leftOut.length} left out as not straight in truth.`
          : '.');
    },
    /** Measures the sizes of red and blue from the picture's own edges. */
    measureLateral(): void {
      if (!measured?.lateral) {
        view.lensSaid =
          measured?.reason ?? 'The edges of this picture are still being read. Try again in a moment.';
        return;
      }
      const before = readings.fringe;
      const { red, blue } = measured.lateral;
      const found = { red: [...red], blue: [...blue] };
      change('lens', { measured: found, lateral: 100, lateralRed: 0, lateralBlue: 0, enabled: true });
      const after = readings.fringe;
      const px = (reading: typeof after): string =>
        reading ? `${reading.worst.toFixed(2)} px` : 'not to be told';
      view.lensSaid = `Fringe ${px(before)} → ${px(after)}, from ${measured.edges.length} edges.`;
    }
  };
}

export type Bench = ReturnType<typeof createBench>;
