/** State of the bench for one frame: the recipe with its history, what is shown, and the derived plan and readings. */
import { radialModel } from '$core/lens/brown.ts';
import type { LensProfile } from '$core/lens/profile.ts';
import type { MarkKind } from '$core/lines/mark.ts';
import { type Solution, solveRotation } from '$core/lines/solve-rotation.ts';
import { type Plan, planFrame } from '$core/pipeline/plan.ts';
import { measureReadings } from '$core/readings/measure.ts';
import { completeRecipe } from '$core/recipe/complete.ts';
import type { Recipe, StepName } from '$core/recipe/schema.ts';
import { chooseProfile, frameOptics, termsFor } from '$core/pipeline/frame-optics.ts';
import type { FrameRow } from '$server/frames/frame-row.ts';
import { createSaver } from './save-recipe.svelte.ts';

export type Zoom = 'fit' | '1:1';

const MOST_STEPS_BACK = 200;

export function createBench(frame: FrameRow, profiles: LensProfile[]) {
  const facts = frame.facts!;
  const optics = frameOptics(facts);
  let recipe = $state.raw<Recipe>(completeRecipe(frame.recipe));
  let past = $state.raw<Recipe[]>([]);
  let future = $state.raw<Recipe[]>([]);
  /** The recipe before a change in progress: one drag is one step back. */
  let before: Recipe | null = null;
  const saver = createSaver(frame.id, frame.version);

  const view = $state({
    step: 'lens' as StepName,
    zoom: 'fit' as Zoom,
    asShot: false,
    grid: false,
    tool: 'plumb' as MarkKind,
    moving: false,
    /** Upright point in the middle of the sheet at 1:1. */
    centre: { x: 0, y: 0 },
    litMark: null as string | null,
    solution: null as Solution | null
  });

  const profile = $derived(chooseProfile(facts, recipe.lens.profile, profiles));
  const terms = $derived(termsFor(facts, profile));
  const plan = $derived(planFrame(optics, recipe, terms));
  const readings = $derived(measureReadings(plan, optics, recipe.lines.marks));
  /** The frame without its recipe, all of it. */
  const asShotPlan: Plan = planFrame(
    optics,
    completeRecipe({ lens: { enabled: false }, lines: { enabled: false }, crop: { enabled: false } }),
    null
  );

  function save(): void {
    saver.save(recipe);
  }

  /** Changes settings of a step. While a control moves, `moving` keeps the changes one step of the history. */
  function change<S extends StepName>(step: S, settings: Partial<Recipe[S]>, moving = false): void {
    before ??= recipe;
    recipe = { ...recipe, [step]: { ...recipe[step], ...settings } };
    view.moving = moving;
    if (!moving) commit();
  }

  function commit(): void {
    view.moving = false;
    if (before && JSON.stringify(before) !== JSON.stringify(recipe)) {
      past = [...past.slice(-MOST_STEPS_BACK), before];
      future = [];
      save();
    }
    before = null;
  }

  function travel(from: Recipe[], to: Recipe[]): { from: Recipe[]; to: Recipe[] } {
    if (before) commit();
    const target = from[from.length - 1];
    const kept = [...to, recipe];
    recipe = target;
    save();
    return { from: from.slice(0, -1), to: kept };
  }

  return {
    frame,
    facts,
    optics,
    profiles,
    view,
    saver,
    asShotPlan,
    get recipe() {
      return recipe;
    },
    get profile() {
      return profile;
    },
    get plan() {
      return plan;
    },
    get shownPlan() {
      return view.asShot ? asShotPlan : plan;
    },
    get readings() {
      return readings;
    },
    get canUndo() {
      return past.length > 0;
    },
    get canRedo() {
      return future.length > 0;
    },
    change,
    commit,
    undo() {
      if (past.length === 0) return;
      const moved = travel(past, future);
      past = moved.from;
      future = moved.to;
    },
    redo() {
      if (future.length === 0) return;
      const moved = travel(future, past);
      future = moved.from;
      past = moved.to;
    },
    /** Takes over a recipe that another window saved. */
    adopt(other: Recipe) {
      past = [...past, recipe];
      future = [];
      recipe = other;
    },
    trueUp(): Solution {
      const model = radialModel(
        terms && recipe.lens.enabled ? terms.distortion : [0, 0, 0],
        recipe.lens.distortion / 100
      );
      const solution = solveRotation(recipe.lines.marks, { focal: optics.focal, model });
      view.solution = solution;
      if (solution.ok) change('lines', { ...solution.angles, enabled: true });
      return solution;
    }
  };
}

export type Bench = ReturnType<typeof createBench>;
