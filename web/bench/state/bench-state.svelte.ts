/** State of the bench for one frame: the recipe with its history, what is shown, and the derived plan and readings. */
import { MediaQuery } from 'svelte/reactivity';
import type { FrameMeasures } from '$server/frames/found-evidence.ts';
import { linearMatrix } from '$core/steps/colour/balance-stage.ts';
import { IDENTITY, type Matrix3 } from '$core/math/matrix3.ts';
import type { ScreenSpace } from './shown-colour.ts';
import type { Vector3 } from '$core/math/vector3.ts';
import { sharpenedStages } from '$core/render/mask-picture.ts';
import { type RenderInputs, renderInputs } from '$core/render/render-inputs.ts';
import { type Readings, measureReadings } from '$core/render/readings/measure.ts';
import { renditionFacts } from '$core/optics/rendition-facts.ts';
import { RENDITION } from '$core/settings/rendition.ts';
import { asShot, completeRecipe } from '$core/recipe/recipe.ts';
import type { Recipe } from '$core/recipe/recipe.ts';
import { switched } from '$core/recipe/switched-off.ts';
import { switchOf } from '$core/recipe/switches.ts';
import type { StepName } from '$core/recipe/steps.ts';
import type { FrameChoice } from '$server/lenses/lens-choice.ts';
import type { FrameRow } from '$server/frames/frame-row.ts';
import {
  type History,
  type States,
  beginHistory,
  moving,
  settled,
  statesOf,
  statesSince,
  stepBack,
  stepForth,
  stepTo,
  withKept
} from './history.ts';
import { call } from '$lib/call.ts';
import type { KeptHistory } from '$server/recipes/history.ts';
import type { Histogram } from '../../preview/messages.ts';
import type { Clipping } from './clipping.ts';
import { createSaver } from './save-recipe.svelte.ts';

export function createBench(frame: FrameRow, startChoice: FrameChoice) {
  let choice = $state.raw<FrameChoice>(startChoice);
  let measured = $state.raw<FrameMeasures | null>(null);
  const edges = $derived(measured?.edges ?? null);
  const started = completeRecipe(frame.recipe);
  let history = $state.raw<History<Recipe>>(beginHistory(started));
  const recipe = $derived(history.present);
  /** By itself, so that the facts are made anew only when it changes, not with every setting. */
  const rendition = $derived(recipe.rendition);
  const facts = $derived(renditionFacts(frame.facts!, rendition));
  /** The states as the server has them; what came before this window opened is read once. */
  let keptStates: States<Recipe> | null = null;
  let reading: Promise<void> | null = null;
  const readHistory = (): Promise<void> =>
    (reading ??= call<KeptHistory>(`/api/frames/${frame.id}/history`)
      .then(({ first, at, states }) => {
        if (at === null) return;
        const found = { first, at, states: states.map(({ recipe: each }) => completeRecipe(each)) };
        // The state in hand is the one that this window began with.
        found.states[at - first] = started;
        history = withKept(history, found);
        keptStates = found;
      })
      .catch((reason: Error) => {
        // Without them, saving would forget what was before: it waits, and tries again.
        reading = null;
        throw reason;
      }));
  const saver = createSaver(frame.id, frame.version, {
    async since() {
      await readHistory();
      const now = statesOf(settled(history));
      return { change: statesSince(keptStates, now), kept: () => (keptStates = now) };
    }
  });

  const view = $state({
    step: 'lens' as StepName,
    asShot: false,
    /** Any drag moves the picture. */
    hand: false,
    grid: false,
    /** The mark, of whichever step, that is pointed at. */
    lit: null as string | null,
    /** Which clipping is marked on the picture. */
    clipping: 'off' as Clipping,
    /** The histogram is of what the sheet shows alone, not of the whole crop. */
    histogramOfSeen: false,
    /** The sheet uses the colours of Display P3 where the screen has them. */
    wide: true,
    moving: false,
    /** The setting that moves. */
    movingName: '',
    /** What sharpening acts on is shown in place of the picture. */
    sharpened: false,
    /** A key asks to see only what clips while an end is dragged. */
    onlyClipping: false
  });
  /** The histogram of the crop, or of what the sheet shows of it. */
  let histogram = $state.raw<Histogram | null>(null);

  /** Working colours, as shot, of the places picked as grey. */
  let greys = $state.raw<readonly Vector3[]>([]);

  const wideScreen = new MediaQuery('color-gamut: p3', false);
  const space = $derived<ScreenSpace>(wideScreen.current && view.wide ? 'display-p3' : 'srgb');
  const inputs = $derived(renderInputs(recipe, facts, choice, { space }));
  const { optics, profile, terms, plan } = $derived(inputs);
  /** As text, so that what follows from it is made anew only when it changes. */
  const linearKey = $derived(JSON.stringify(linearMatrix(inputs.recipe, facts) ?? IDENTITY));
  const linear = $derived(JSON.parse(linearKey) as Matrix3);
  const readingsBy = (of: RenderInputs, colours: { greys: readonly Vector3[]; linear?: Matrix3 }): Readings =>
    measureReadings(of.plan, of.optics, {
      marks: of.recipe.lines.marks,
      curves: of.recipe.lens.curves,
      edges,
      found: measured?.found,
      rectangle: of.recipe.lines.rectangle,
      ...colours
    });
  const readings = $derived(readingsBy(inputs, { greys, linear }));
  /** The frame without its recipe, all of it. */
  const shotInputs = $derived(renderInputs(asShot(frame.recipe.rendition), facts, choice, { space }));

  /** Another state that is shown for a while, without being taken. */
  let tried = $state.raw<((recipe: Recipe) => Recipe) | null>(null);
  /** What the sheet shows in place of the picture: where sharpening acts. */
  const sharpenedShown = $derived.by(() => {
    const stages = view.sharpened ? sharpenedStages(inputs.stages) : null;
    return stages && { ...inputs, stages };
  });
  const inputsOf = (of: Recipe): RenderInputs => renderInputs(of, facts, choice, { space });
  const triedInputs = $derived(tried && inputsOf(tried(recipe)));

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
    // What is set by hand is meant to act: it is no longer off.
    const set = Object.entries(patch).flatMap(([step, settings]) =>
      Object.entries(settings)
        .filter(([name, value]) => recipe[step as StepName][name as never] !== value)
        .map(([name]) => switchOf(step as StepName, name))
    );
    const on = recipe.off.some((name) => set.includes(name)) ? switched(recipe, set, false) : recipe;
    const next = moving(history, { ...on, ...Object.fromEntries(changed) });
    go(moves ? next : settled(next));
  }

  function change<S extends StepName>(step: S, settings: Partial<Recipe[S]>, moves = false): void {
    view.movingName = moves ? (Object.keys(settings)[0] ?? '') : '';
    changeSteps({ [step]: settings }, moves);
  }

  /** Takes up another state, made of the one in hand, as one step of the history. */
  const become = (made: (recipe: Recipe) => Recipe): void => go(settled(moving(history, made(recipe))));

  return {
    frame,
    become,
    /** Takes up the present rendition. */
    renderAnew: (): void => become((state) => ({ ...state, rendition: RENDITION })),
    /** Of the file, with its colours as the rendition has them. */
    get facts() {
      return facts;
    },
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
    /** What the frame's own edges and lines say; null until that is read. */
    get measured() {
      return measured;
    },
    setMeasured(found: FrameMeasures) {
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
    /** What pictures of the frame without its recipe are made from. */
    get shot() {
      return shotInputs;
    },
    /** What a picture of another state of the frame is made from. */
    inputsOf,
    /** Readings of another state; its greys are not known. */
    readingsOf: (of: Recipe): Readings => readingsBy(inputsOf(of), { greys: [] }),
    /** Shows another state on the sheet until null is given. */
    tryOn(state: ((recipe: Recipe) => Recipe) | null): void {
      tried = state;
    },
    /** What the sheet shows: by the recipe, as another state that is tried on, or as shot. */
    get shown() {
      return view.asShot ? shotInputs : (triedInputs ?? sharpenedShown ?? inputs);
    },
    /** Whether the sheet shows where sharpening acts. */
    get showsSharpened() {
      return sharpenedShown !== null && !view.asShot && !tried;
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
    /** The states, and the place of the one in hand. */
    get states() {
      return statesOf(history);
    },
    readHistory,
    goTo: (place: number): void => go(stepTo(history, place)),
    undo: () => go(stepBack(history)),
    redo: () => go(stepForth(history)),
    /** Takes over a recipe that another window saved. */
    adopt(other: Recipe) {
      history = settled(moving(history, other));
    },
    /** Takes up a state that was kept, as a step of the history. */
    take: (state: Recipe): void => become(() => state)
  };
}

export type Bench = ReturnType<typeof createBench>;
