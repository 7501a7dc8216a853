/** Lays house settings over frames of a job by themselves, as its rules say: when they are added, and when their room is named. */
import { type HouseRule, ruleApplies, withUntouchedSteps } from '../../core/recipe/house-rules.ts';
import type { Context } from '../context.ts';
import { framesOfJob } from '../frames/frame-row.ts';
import { jobById } from '../jobs/jobs.ts';
import { listHouseSettings } from '../recipes/house-settings.ts';
import { type SetChange, changeRecipes } from '../recipes/write-recipe.ts';

/** `which`: rules that are to be heard. A set that no longer exists is passed over. */
export async function layHouseRules(
  context: Context,
  job: string,
  ids: readonly string[],
  which: (rule: HouseRule) => boolean
): Promise<SetChange> {
  const rules = ((await jobById(context, job))?.house_rules ?? []).filter(which);
  if (rules.length === 0) return { frames: 0, changed: [] };
  const sets = new Map((await listHouseSettings(context)).map(({ id, steps }) => [id, steps]));
  const frames = (await framesOfJob(context, job, ids)).filter(
    ({ facts, room }) => facts && rules.some((rule) => ruleApplies(rule, { facts, room }))
  );
  return changeRecipes(
    context,
    frames.map(({ id }) => id),
    (recipe, { facts, room }) =>
      rules
        .filter((rule) => facts && ruleApplies(rule, { facts, room }))
        .reduce((made, { set }) => withUntouchedSteps(made, sets.get(set) ?? {}), recipe)
  );
}

export const ofAdding = ({ room }: HouseRule): boolean => room.trim() === '';
export const ofNaming = (rule: HouseRule): boolean => !ofAdding(rule);
