/** What the bench sets by itself at a press, for calls without a bench: straightened, trued up, tone and white. */
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { Curve } from '../../core/optics/curve.ts';
import type { PlacedPlanes } from '../../core/picture/tile/planes.ts';
import { type HouseSettings, withHouseChanges } from '../../core/recipe/house-settings.ts';
import { patchedRecipe } from '../../core/recipe/patched-recipe.ts';
import { type PartialRecipe, completeRecipe } from '../../core/recipe/recipe.ts';
import { planProjection } from '../../core/render/plan.ts';
import { trueUpRecipe } from '../../core/render/true-up.ts';
import { balanceByItself } from '../../core/steps/colour/balance-by-itself.ts';
import type { LightColours } from '../../core/steps/colour/light-colour.ts';
import { type ColourEdges, evenColours } from '../../core/steps/lens/even-colours.ts';
import { type FrameSetup, type LensChoice, setupFrame } from '../../core/steps/lens/frame-optics.ts';
import type { LensSettings } from '../../core/steps/lens/step.ts';
import { straighten } from '../../core/steps/lens/straighten.ts';
import type { TrueUpMode } from '../../core/steps/lines/solve-rotation.ts';
import { type Suggestion, TOGETHER } from '../../core/steps/tone/suggest-tone.ts';
import { markedByItself } from '../../core/settings/set-by-itself.ts';
import { colourSchema } from '../../core/steps/colour/step.ts';
import { type ToneSettings, toneSchema } from '../../core/steps/tone/step.ts';
import { glassOf, lookInPool } from './look-in-pool.ts';
import type { Pool } from './pool.ts';

export const AUTOMATIC = ['tone', 'colour'] as const;

export interface ByItself {
  straighten: boolean;
  trueUp: TrueUpMode | null;
  auto: readonly (typeof AUTOMATIC)[number][];
  /** Laid over it one after another, what they change (default: none). */
  house?: readonly HouseSettings[];
}

export interface LightTask {
  planes: PlacedPlanes;
  toWorking: FrameFacts['toWorking'];
  tone: ToneSettings;
}

export interface LightTold {
  tone: Suggestion;
  white: LightColours;
}

/** A frame to be set by what it shows. */
export interface Shown {
  planes: PlacedPlanes;
  facts: FrameFacts;
  choice: LensChoice;
  /** Asked for where a lens is straightened; null: they were not measured. */
  colourEdges: () => Promise<ColourEdges | null>;
}

/** The recipe with all that was asked for set, as far as the picture tells it; and what was found, in words. */
export async function setByItself(
  recipe: PartialRecipe,
  wanted: ByItself,
  { planes, facts, choice, colourEdges }: Shown,
  pool: Pool,
  signal?: AbortSignal
): Promise<{ recipe: PartialRecipe; said: string[] }> {
  const said: string[] = [];
  let made = recipe;
  const setup = (lens: LensSettings): FrameSetup => setupFrame(facts, lens, choice);
  if (wanted.straighten) {
    const complete = completeRecipe(made);
    const { optics, terms } = setup(complete.lens);
    const { projection } = planProjection(optics, complete, terms).model;
    const curves = (await pool.run({ planes, size: optics.size }, { name: 'curves', signal })) as Curve[];
    const found = straighten(curves, { size: optics.size, projection, focal: optics.focal });
    if (found.ok) made = patchedRecipe(made, { lens: found.lens });
    said.push(`Straightened: ${found.said}`);
    const coloured = await colourEdges();
    const { lens } = completeRecipe(made);
    const evened = coloured && evenColours(coloured, { lens, terms, size: optics.size });
    if (evened) {
      made = patchedRecipe(made, { lens: evened.lens });
      said.push(evened.said);
    }
  }
  if (wanted.trueUp) {
    const complete = completeRecipe(made);
    const { lines } = await lookInPool(planes, glassOf(facts, complete, choice), pool, signal);
    const found = trueUpRecipe(lines, { recipe: complete, mode: wanted.trueUp, setup });
    if (found.ok) made = patchedRecipe(made, found.patch);
    said.push(`Trued up: ${found.said}`);
  }
  if (wanted.auto.length > 0) {
    const { tone } = completeRecipe(made);
    const task: LightTask = { planes, toWorking: facts.toWorking, tone };
    const light = (await pool.run(task, { name: 'light', signal })) as LightTold;
    if (wanted.auto.includes('tone')) {
      const settings = Object.fromEntries(TOGETHER.map((name) => [name, light.tone[name]]));
      made = patchedRecipe(made, {
        tone: markedByItself(toneSchema, { ...tone, ...settings, enabled: true })
      });
      const changed = TOGETHER.filter((name) => light.tone[name] !== tone[name]).length;
      said.push(`Tone: ${changed} settings by itself.`);
    }
    if (wanted.auto.includes('colour')) {
      const { settings, name } = balanceByItself(facts, light.white.light);
      const { colour } = completeRecipe(made);
      made = patchedRecipe(made, {
        colour: markedByItself(colourSchema, { ...colour, ...settings, neutrals: [], enabled: true })
      });
      said.push(`Colour: set for ${name}${light.white.other ? ', the stronger of two lights' : ''}.`);
    }
  }
  for (const { name, steps } of wanted.house ?? []) {
    made = withHouseChanges(made, steps);
    said.push(`House settings: ${name}.`);
  }
  return { recipe: made, said };
}
