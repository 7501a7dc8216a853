/** What the picture is compared with, and how. */
import { stepLabel } from '$core/recipe/steps.ts';
import type { Recipe } from '$core/recipe/recipe.ts';
import { switched } from '$core/recipe/switched-off.ts';
import type { RenderInputs } from '$core/render/render-inputs.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { WipeLine } from './half-plane.ts';

/** Across one picture, beside it, or as a picture of what changed. */
export type CompareWay = 'wipe' | 'beside' | 'change';

/** The other picture: as shot, as the frame was when it was opened, without the step in hand or a group of settings, as a revision, or another frame. */
export type Against =
  | { kind: 'shot' }
  | { kind: 'opened' }
  | { kind: 'without' }
  | { kind: 'off'; names: readonly string[]; label: string }
  | { kind: 'revision'; letter: string; recipe: Recipe }
  | { kind: 'frame'; id: string; name: string };

const UPRIGHT: WipeLine = { x: 0.5, y: 0.5, angle: 0 };

export function createCompare(bench: Bench) {
  const opened = bench.recipe;
  let way = $state.raw<CompareWay | null>(null);
  let against = $state.raw<Against>({ kind: 'shot' });
  let line = $state.raw<WipeLine>(UPRIGHT);

  const recipe = $derived.by((): Recipe | null => {
    const { step } = bench.view;
    if (against.kind === 'opened') return opened;
    if (against.kind === 'revision') return against.recipe;
    if (against.kind === 'off') return switched(bench.recipe, against.names, true);
    if (against.kind === 'without')
      return { ...bench.recipe, [step]: { ...bench.recipe[step], enabled: false } };
    return null;
  });
  const inputs = $derived.by((): RenderInputs | null => {
    if (way === null || against.kind === 'frame') return null;
    return recipe ? bench.inputsOf(recipe) : bench.shot;
  });

  return {
    get way() {
      return way;
    },
    /** Compares in a way; once more ends it. Another frame has nothing that could have changed. */
    turn(wanted: CompareWay | null): void {
      way = wanted === way ? null : wanted;
      if (way === 'change' && against.kind === 'frame') against = { kind: 'shot' };
    },
    get against() {
      return against;
    },
    set against(next) {
      against = next;
      if (next.kind === 'frame' && way === 'change') way = 'beside';
    },
    get line() {
      return line;
    },
    set line({ x, y, angle }) {
      const within = (value: number): number => Math.min(1, Math.max(0, value));
      line = { x: within(x), y: within(y), angle: ((angle % 360) + 360) % 360 };
    },
    setUpright(): void {
      line = UPRIGHT;
    },
    /** What the other picture is called. */
    get label(): string {
      if (against.kind === 'shot') return 'As shot';
      if (against.kind === 'opened') return 'As opened';
      if (against.kind === 'off') return `Without ${against.label}`;
      if (against.kind === 'without') return `Without ${stepLabel(bench.view.step)}`;
      return against.kind === 'revision' ? `Revision ${against.letter}` : against.name;
    },
    /** What the other picture is made from; null where there is none, or it is another frame's. */
    get inputs() {
      return inputs;
    }
  };
}

export type Compare = ReturnType<typeof createCompare>;
