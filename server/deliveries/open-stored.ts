/** A frame of a job opened for pictures, by a recipe: with what was measured and found of it before. */
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { storedBytes } from '../looks/looks.ts';
import { originalOf } from '../originals/store-original.ts';
import { type OpenedFrame, openFrame } from '../render/export-frame.ts';
import type { WorkOptions } from '../render/linear-source.ts';
import { keptFound } from '../frames/found-evidence.ts';
import { keptEdges } from '../frames/frame-edges.ts';
import type { FrameRow } from '../frames/frame-row.ts';

export async function openStored(
  context: Context,
  frame: FrameRow,
  recipe: PartialRecipe,
  options: WorkOptions
): Promise<OpenedFrame> {
  const [measured, found] = await Promise.all([
    keptEdges(context, frame.sha256),
    keptFound(context, frame.sha256)
  ]);
  return openFrame(
    {
      ...originalOf(context.data, frame),
      measured,
      found,
      white: frame.facts?.white,
      outside: frame.outside,
      recipe,
      choose: (facts) => choiceFor(context, facts, recipe.lens?.profile),
      findStored: (path) => storedBytes(context, path)
    },
    context.pool,
    options
  );
}
