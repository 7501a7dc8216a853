/** When house settings are laid over a frame by themselves: what its file says, and the room that it shows. */
import equal from 'fast-deep-equal';
import type { FrameFacts } from '../optics/frame-facts.ts';
import { type HouseSteps, withHouseSettings } from './house-settings.ts';
import { type PartialRecipe, completeRecipe } from './recipe.ts';
import { EVERY_STEP } from './steps.ts';

export interface HouseRule {
  /** Of the set. */
  set: string;
  /** Parts of names, of which one has to be in it, parted by commas; empty: whatever it is. */
  camera: string;
  lens: string;
  /** Of the room; a rule that names any waits until the frame's room is named. */
  room: string;
  /** Sensitivities from and to which it holds; null: any. */
  isoFrom: number | null;
  isoTo: number | null;
}

const parts = { type: 'string', maxLength: 200 } as const;
const iso = { type: ['integer', 'null'], minimum: 1, maximum: 10_000_000 } as const;

export const houseRuleSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['set', 'camera', 'lens', 'room', 'isoFrom', 'isoTo'],
  properties: {
    set: { type: 'string', minLength: 1, maxLength: 60 },
    camera: parts,
    lens: parts,
    room: parts,
    isoFrom: iso,
    isoTo: iso
  }
} as const;

/** Whether one of the parts is in a name. */
function names(wanted: string, name: string): boolean {
  const all = wanted
    .split(',')
    .map((part) => part.trim().toLowerCase())
    .filter(Boolean);
  return all.length === 0 || all.some((part) => name.toLowerCase().includes(part));
}

/** What of a frame rules are about. */
export interface RuledFrame {
  facts: Pick<FrameFacts, 'make' | 'model' | 'lens' | 'iso'>;
  room: string;
}

export const ruleApplies = (rule: HouseRule, { facts, room }: RuledFrame): boolean =>
  names(rule.camera, `${facts.make ?? ''} ${facts.model ?? ''}`) &&
  names(rule.lens, facts.lens ?? '') &&
  names(rule.room, room) &&
  (rule.isoFrom === null || (facts.iso !== null && facts.iso >= rule.isoFrom)) &&
  (rule.isoTo === null || (facts.iso !== null && facts.iso <= rule.isoTo));

/** A recipe with those steps of a set that nothing was done about yet: what someone did stays. */
export function withUntouchedSteps(recipe: PartialRecipe, steps: HouseSteps): PartialRecipe {
  const [own, neutral] = [completeRecipe(recipe), completeRecipe()];
  const free = EVERY_STEP.map(({ name }) => name).filter(
    (name) => steps[name] !== undefined && equal(own[name], neutral[name])
  );
  return withHouseSettings(recipe, Object.fromEntries(free.map((name) => [name, steps[name]])));
}
