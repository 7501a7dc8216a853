/** How far a frame has come, in words that are read at arm's length. */
import equal from 'fast-deep-equal';
import { type PartialRecipe, completeRecipe } from '$core/recipe/recipe.ts';
import type { FrameCard } from '$server/set/frame-card.ts';

export type FrameWord = 'new' | 'in work' | 'true' | 'toned' | 'wants a look';

/** Each word's own shape: known without colour. */
export const WORD_SHAPES: Record<FrameWord, string> = {
  new: '·',
  'in work': '○',
  true: '▲',
  toned: '◐',
  'wants a look': '▽'
};

const isTrued = ({ lines }: PartialRecipe): boolean =>
  lines !== undefined && lines.enabled !== false && Boolean(lines.roll || lines.pitch || lines.yaw);
const AS_IT_COMES = completeRecipe();
const isToned = (partial: PartialRecipe): boolean => {
  const recipe = completeRecipe(partial);
  return (['tone', 'colour'] as const).some(
    (step) => recipe[step].enabled && !equal(recipe[step], AS_IT_COMES[step])
  );
};

/** What is to be said of a frame: what wants a look first, then what was done. */
export function frameWords({ frame, look, readings }: FrameCard): FrameWord[] {
  const { recipe, lines_said: said, version } = frame;
  const toned: FrameWord[] = isToned(recipe) ? ['toned'] : [];
  if (look !== null) return ['wants a look', ...toned];
  // As taken it may be true already: then its lines say so.
  const stands =
    isTrued(recipe) || said?.ok === true || (readings.plumb !== null && readings.plumb.rms <= 0.1);
  const words: FrameWord[] = [...(stands ? (['true'] as const) : []), ...toned];
  return words.length > 0 ? words : [version > 0 ? 'in work' : 'new'];
}
