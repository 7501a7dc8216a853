/** Steps and groups of their settings that are chosen, in a set of both: a step is in it where all of its groups are. */
import type { CarriedPart } from '$core/recipe/carry-over.ts';
import { type StepName, stepByName } from '$core/recipe/steps.ts';

const toggle = (parts: Set<CarriedPart>, part: CarriedPart, on: boolean): void =>
  void (on ? parts.add(part) : parts.delete(part));

const groupsOf = (step: StepName): CarriedPart[] =>
  stepByName(step)!.carries.groups.map(({ name }): CarriedPart => `${step}.${name}`);

export function toggleStep(parts: Set<CarriedPart>, step: StepName, on: boolean): void {
  for (const part of [step, ...groupsOf(step)]) toggle(parts, part, on);
}

export function toggleGroup(parts: Set<CarriedPart>, step: StepName, group: CarriedPart, on: boolean): void {
  toggle(parts, group, on);
  toggle(
    parts,
    step,
    groupsOf(step).every((each) => parts.has(each))
  );
}

/** What is chosen, each thing once: groups stand for themselves where their step is not chosen as a whole. */
export const chosenParts = (parts: ReadonlySet<CarriedPart>): CarriedPart[] =>
  [...parts].filter((part) => !part.includes('.') || !parts.has(part.split('.')[0] as StepName));
