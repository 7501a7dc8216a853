<!-- One number: dragged, typed, nudged with arrows (Shift x10, Alt /10), and set back by its reset button. -->
<script lang="ts">
  import { Button, Input, Range } from 'flowbite-svelte';
  import { onDestroy } from 'svelte';
  import { hint } from '../../lib/hints/hint.ts';

  interface Definition {
    label: string;
    minimum: number;
    maximum: number;
    step: number;
    default: number;
    unit?: string;
  }
  interface Props {
    setting: Definition;
    /** Name for the reader of the screen, where the setting's label alone would be ambiguous. */
    label?: string;
    value: number;
    /** Why the control acts on nothing now; it is disabled and says so. */
    idle?: string | null;
    /** Range of the slider where it is finer than the setting's. */
    range?: [number, number];
    /** What it does, for its tooltip. */
    description?: string;
    /** Sets it by itself. */
    suggest?: () => void;
    /** Shows the picture without it while `on`. */
    without?: (on: boolean) => void;
    /** Whether it is off though it is set, and what turns it off or on; null: it cannot be off. */
    switch?: { off: boolean; turn: () => void } | null;
    change: (value: number, moving: boolean) => void;
  }
  let {
    setting,
    value,
    label,
    description,
    idle = null,
    range,
    suggest,
    without,
    switch: turned = null,
    change
  }: Props = $props();
  const spoken = $derived(label ?? setting.label);
  const low = $derived(range?.[0] ?? setting.minimum);
  const high = $derived(range?.[1] ?? setting.maximum);
  const places = $derived(setting.step < 0.1 ? 2 : setting.step < 1 ? 1 : 0);
  const shown = (value: number): string => value.toFixed(places).replace('-', '−');
  /** What it does, how far it goes, and where it changes nothing. */
  const told = $derived(
    `${description ? `${description} ` : ''}${shown(setting.minimum)} to ${shown(setting.maximum)}${setting.unit ? ` ${setting.unit}` : ''}, ` +
      `neutral ${shown(setting.default)}. Arrows nudge it, Shift ten times as far, Alt a tenth.`
  );
  const id = $props.id();
  /** A press this long is one that holds the control away; a shorter one turns it off or on. */
  const HELD = 250;
  let pressed = 0;
  let held = $state(false);
  function hold(on: boolean): void {
    if (on) pressed = performance.now();
    if (!without || on === held) return;
    held = on;
    without(on);
  }
  function turn(event: MouseEvent): void {
    // By a key there was no press that could have been held.
    const byKey = event.detail === 0;
    if (byKey || performance.now() - pressed < HELD) turned?.turn();
  }
  onDestroy(() => hold(false));

  function set(next: number, moving: boolean): void {
    if (!Number.isFinite(next)) return;
    const clamped = Math.min(setting.maximum, Math.max(setting.minimum, next));
    change(Number(clamped.toFixed(4)), moving);
  }

  function nudge(event: KeyboardEvent): void {
    // Done typing: the keyboard's shortcuts work again.
    if (event.key === 'Enter') (event.currentTarget as HTMLInputElement).blur();
    const direction = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    const typing = (event.currentTarget as HTMLInputElement).type === 'text';
    if (!direction || (typing && (event.key === 'ArrowLeft' || event.key === 'ArrowRight'))) return;
    event.preventDefault();
    set(value + direction * setting.step * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1), false);
  }
</script>

{#snippet itself(width: string)}
  <Button
    color="alternative"
    class={`ghost h-6 ${width} border-0 p-0 text-faint disabled:invisible`}
    aria-label={`${spoken} by itself`}
    {...hint('By itself: from the picture as it stands')}
    disabled={idle !== null}
    onclick={suggest}>◇</Button
  >
{/snippet}
<div
  class={[
    'control grid h-6.75 grid-cols-[80px_minmax(60px,1fr)_54px_16px] items-center gap-1 beside:grid-cols-[80px_minmax(160px,1fr)_54px_16px]',
    idle !== null && 'opacity-60'
  ]}
  {...hint(idle ?? told)}
>
  <span class="flex min-w-0 items-center">
    {#if without && idle === null && value !== setting.default}
      <Button
        color="alternative"
        class={[
          'ghost h-6 min-w-0 flex-1 justify-start border-0 p-0 font-normal',
          turned?.off && 'text-faint line-through'
        ]}
        aria-label={turned ? `${spoken} off` : `The picture without ${spoken}`}
        aria-pressed={turned ? turned.off : held}
        {...hint(
          turned
            ? `Held: the picture without it. Pressed: ${turned.off ? 'on again' : 'off; what is set stays'}.`
            : 'Held: the picture without it.'
        )}
        onpointerdown={() => hold(true)}
        onpointerup={() => hold(false)}
        onpointerleave={() => hold(false)}
        onpointercancel={() => hold(false)}
        onclick={turn}><span class={['truncate', suggest && 'text-xs']}>{setting.label}</span></Button
      >
    {:else}
      <label class="flex-1 truncate" for={id}>{setting.label}</label>
    {/if}
    {#if suggest && value !== setting.default}{@render itself('w-6 flex-none')}{/if}
  </span>
  <Range
    class="h-0.75 p-0"
    size="sm"
    appearance="auto"
    aria-label={`${spoken} slider`}
    aria-describedby={idle === null ? undefined : `${id}-idle`}
    min={low}
    max={high}
    step="any"
    {value}
    disabled={idle !== null}
    oninput={(e) => set(Math.round(e.currentTarget.valueAsNumber / setting.step) * setting.step, true)}
    onchange={(e) => set(Math.round(e.currentTarget.valueAsNumber / setting.step) * setting.step, false)}
    onkeydown={nudge}
  />
  <span class="relative">
    <Input
      {id}
      class={[
        'h-5.75 w-full py-0 pr-1 pl-0.5 text-right',
        value.toFixed(places).length > 4 && 'text-sm tracking-tight',
        setting.unit && (setting.unit.length > 1 ? 'pr-5.5' : setting.unit === '‰' ? 'pr-4.5' : 'pr-3.75')
      ]}
      type="text"
      inputmode="decimal"
      aria-label={spoken}
      aria-describedby={idle === null ? undefined : `${id}-idle`}
      value={value.toFixed(places)}
      disabled={idle !== null}
      onchange={(e) => {
        set(Number(e.currentTarget.value.replace(',', '.').replace('−', '-')), false);
        e.currentTarget.value = value.toFixed(places);
      }}
      onkeydown={nudge}
    />
    {#if setting.unit}
      <span class="pointer-events-none absolute inset-y-0 right-1 flex items-center text-xs text-faint"
        >{setting.unit}</span
      >
    {/if}
  </span>
  {#if suggest && idle === null && value === setting.default}
    {@render itself('w-4')}
  {:else}
    <Button
      color="alternative"
      class="ghost h-6 w-4 border-0 p-0 text-faint disabled:invisible"
      aria-label={`Set ${spoken} back`}
      {...hint('Set back')}
      disabled={idle !== null || value === setting.default}
      onclick={() => set(setting.default, false)}>↺</Button
    >
  {/if}
  {#if idle !== null}<span class="sr-only" id={`${id}-idle`}>{idle}</span>{/if}
</div>
