/** The settings that can be switched off by themselves: those that steps have in groups, as "tone.exposure". */
import { EVERY_STEP, type StepName, stepByName } from './steps.ts';

export const switchOf = (step: StepName, setting: string): string => `${step}.${setting}`;

export const SWITCHES: readonly string[] = EVERY_STEP.flatMap(({ name, carries }) =>
  carries.groups.flatMap(({ settings }) => settings.map((setting) => switchOf(name, setting)))
);

/** Switches of groups of a step, by the groups' names. */
export const switchesOf = (step: StepName, groups: readonly string[]): string[] =>
  stepByName(step)!
    .carries.groups.filter(({ name }) => groups.includes(name))
    .flatMap(({ settings }) => settings.map((setting) => switchOf(step, setting)));
