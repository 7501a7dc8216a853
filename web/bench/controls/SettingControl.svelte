<!-- The control of a step's setting, drawn from its definition: its kind, range, unit, label and description. -->
<script lang="ts" generics="S extends StepName">
  import { Checkbox, Select } from 'flowbite-svelte';
  import type { Recipe } from '$core/recipe/recipe.ts';
  import { EVERY_STEP, type StepName } from '$core/recipe/steps.ts';
  import { SWITCHES, switchOf } from '$core/recipe/switches.ts';
  import { switched } from '$core/recipe/switched-off.ts';
  import { type SettingPath, definitionAt, valueAt, withValueAt } from '$core/settings/nested.ts';
  import type { Setting } from '$core/settings/step.ts';
  import NumberControl from './NumberControl.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    step: S;
    name: string;
    /** Where the setting stands, if within another one: the way to what holds it. */
    within?: SettingPath;
    /** Why the control acts on nothing now; it is disabled and says so. */
    idle?: string | null;
    /** Words in place of the setting's label, where those about it say the rest. */
    label?: string;
    /** Name for the reader of the screen, where the label alone would be ambiguous. */
    spoken?: string;
    /** Sets it by itself. */
    suggest?: () => void;
  }
  let { bench, step, name, within, idle = null, label, spoken, suggest }: Props = $props();

  interface Definition extends Setting {
    type?: string | readonly string[];
    enum?: readonly string[];
    minimum?: number;
    maximum?: number;
    fine?: readonly [number, number];
  }
  const path = $derived([...(within ?? []), name]);
  const setting = $derived.by((): Definition => {
    const found = definitionAt(
      EVERY_STEP.find((each) => each.name === step)!.schema as never,
      path,
      bench.recipe[step]
    );
    if (!found) throw new Error(`${step} has no setting ${path.join('.')}.`);
    return found as unknown as Definition;
  });
  const words = $derived(label ?? setting.label);
  const value = $derived(valueAt(bench.recipe[step], path) ?? setting.default);
  const neutral = $derived(
    typeof setting.default === 'boolean' ? (setting.default ? 'on' : 'off') : setting.default
  );
  const told = $derived(idle ?? `${setting.description} Neutral: ${neutral}.`);
  const withValue = (recipe: Recipe, next: unknown): Partial<Recipe[S]> => {
    const first = path[0] as keyof Recipe[S];
    return { [first]: withValueAt(recipe[step], path, next)[first] } as unknown as Partial<Recipe[S]>;
  };
  const switchName = $derived(switchOf(step, name));
  const canBeOff = $derived(!within && SWITCHES.includes(switchName));
  const isOff = $derived(canBeOff && bench.recipe.off.includes(switchName));
  const change = (next: unknown, moving = false): void =>
    bench.change(step, withValue(bench.recipe, next), moving);
  const without = (on: boolean): void =>
    bench.tryOn(
      on
        ? (recipe) => ({ ...recipe, [step]: { ...recipe[step], ...withValue(recipe, setting.default) } })
        : null
    );
</script>

{#if setting.type === 'number' || setting.type === 'integer'}
  <NumberControl
    setting={{
      label: words,
      minimum: setting.minimum!,
      maximum: setting.maximum!,
      step: setting.step ?? 1,
      default: setting.default as number,
      unit: setting.unit
    }}
    label={spoken}
    description={setting.description}
    value={value as number}
    range={setting.fine ? [...setting.fine] : undefined}
    {idle}
    {suggest}
    {without}
    switch={canBeOff
      ? { off: isOff, turn: () => bench.become((recipe) => switched(recipe, [switchName], !isOff)) }
      : null}
    {change}
  />
{:else if setting.type === 'boolean'}
  <Checkbox
    checked={value as boolean}
    disabled={idle !== null}
    {...hint(told)}
    aria-label={spoken}
    onchange={(event) => change(event.currentTarget.checked)}>{words}</Checkbox
  >
{:else if setting.enum}
  <label class="flex items-center gap-1.5 text-sm" {...hint(told)}>
    {words}
    <Select
      placeholder=""
      aria-label={spoken}
      value={value as string}
      disabled={idle !== null}
      onchange={(event) => change(event.currentTarget.value)}
    >
      {#each setting.enum as choice (choice)}<option value={choice}>{choice}</option>{/each}
    </Select>
  </label>
{/if}
