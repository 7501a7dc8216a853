/** Makes a frame's exposure and white balance such that it comes out as another of the same room does. */
import type { CommonLight } from '../../core/measure/common/common-light.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { type Scope, inScope } from '../../core/picture/kernels/scope.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { matchedRecipe } from '../../core/render/matched-recipe.ts';
import { renderInputs } from '../../core/render/render-inputs.ts';
import type { Context } from '../context.ts';
import { type FrameRow, frameById, isReady } from '../frames/frame-row.ts';
import { readProxy } from '../frames/proxy.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import type { CommonTask } from '../render/common-task.ts';
import { UserError } from '../user-error.ts';
import { CHANGED_MEANWHILE } from './true-up-frame.ts';

export interface MatchedTo {
  said: string;
  /** Why the frame wants a look, and stays as it is; null: it matches. */
  look: string | null;
  /** Its version, where it changed. */
  version?: number;
}

type Ready = FrameRow & { facts: FrameFacts };

async function compared(
  context: Context,
  frame: Ready,
  ownAll: Scope['ownAll']
): Promise<CommonTask['like']> {
  const { facts, recipe } = frame;
  const choice = await choiceFor(context, facts, recipe.lens?.profile);
  const { falloff } = renderInputs(completeRecipe(recipe), facts, choice).plan;
  return { planes: ownAll(await readProxy(context, frame)), falloff, size: facts.size };
}

export async function matchFrame(context: Context, id: string, likeId: string): Promise<MatchedTo> {
  const [frame, like] = [await frameById(context, id), await frameById(context, likeId)];
  if (!isReady(frame) || !isReady(like)) throw new UserError('Both frames have to be ready.');
  if (id === likeId) return { said: '', look: null };
  const common = await inScope(async ({ ownAll }) => {
    const task: CommonTask = {
      like: await compared(context, like, ownAll),
      frame: await compared(context, frame, ownAll)
    };
    return (await context.pool.run(task, { name: 'common' })) as CommonLight | null;
  });
  if (!common)
    return { said: '', look: `It shows too little of what ${like.name} shows to be matched to it.` };
  const matched = matchedRecipe(frame, like, common);
  if (!matched.ok) return { said: '', look: matched.said };
  const saved = await saveRecipe(context, id, frame.version, matched.recipe);
  if (!saved?.saved) return { said: '', look: CHANGED_MEANWHILE };
  return { said: matched.said, look: null, version: saved.version };
}
