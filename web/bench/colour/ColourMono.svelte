<!-- Mono: what grey is made of, the trade's filters as starts, and toning by zones. -->
<script lang="ts">
  import equal from 'fast-deep-equal';
  import { Select } from 'flowbite-svelte';
  import { FILTERS } from '$core/steps/colour/filters.ts';
  import { TONINGS } from '$core/steps/colour/toning.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';

  interface Props {
    bench: Bench;
    off: string | null;
  }
  let { bench, off }: Props = $props();
  const colour = $derived(bench.recipe.colour);
  const idle = $derived(
    off ?? (colour.mono ? null : 'The picture is in colour: switch Black and white on first.')
  );
  const filter = $derived(
    Object.entries(FILTERS).find(
      ([, [red, green, blue]]) =>
        red === colour.monoRed && green === colour.monoGreen && blue === colour.monoBlue
    )?.[0] ?? 'own'
  );
  const toning = $derived(
    Object.entries(TONINGS).find(([, zones]) =>
      Object.entries(zones).every(([name, zone]) => equal(colour[name as keyof typeof zones], zone))
    )?.[0] ?? 'own'
  );
  const sum = $derived(colour.monoRed + colour.monoGreen + colour.monoBlue);
</script>

<section class="column" aria-label="Black and white">
  <SettingControl {bench} step="colour" name="mono" idle={off} />
  <label class="flex items-center gap-1.5 pt-2 text-sm">
    Filter
    <Select
      placeholder=""
      class="w-32!"
      disabled={idle !== null}
      value={filter}
      onchange={(event) => {
        const weights = FILTERS[event.currentTarget.value as keyof typeof FILTERS];
        if (weights)
          bench.change('colour', { monoRed: weights[0], monoGreen: weights[1], monoBlue: weights[2] });
      }}
    >
      {#each Object.keys(FILTERS) as name (name)}<option value={name}>{name}</option>{/each}
      {#if filter === 'own'}<option value="own">own</option>{/if}
    </Select>
  </label>
</section>
<section class="column" aria-label="What grey is made of">
  <SettingControl {bench} step="colour" name="monoRed" spoken="Red in grey" {idle} />
  <SettingControl {bench} step="colour" name="monoGreen" spoken="Green in grey" {idle} />
  <SettingControl {bench} step="colour" name="monoBlue" spoken="Blue in grey" {idle} />
  <p class="quiet pt-1 text-xs">
    {sum === 100
      ? 'Together 100 %: white stays white.'
      : `Together ${sum} %: white is ${sum > 100 ? 'lighter' : 'darker'}.`}
    Lightness on the page Hues darkens a sky or lightens leaves.
  </p>
</section>
<section class="column" aria-label="Toning">
  <label class="flex items-center gap-1.5 pb-1.5 text-sm">
    Toning
    <Select
      placeholder=""
      class="w-32!"
      disabled={off !== null}
      value={toning}
      onchange={(event) => {
        const zones = TONINGS[event.currentTarget.value as keyof typeof TONINGS];
        if (zones) bench.change('colour', structuredClone(zones));
      }}
    >
      {#each Object.keys(TONINGS) as name (name)}<option value={name}>{name}</option>{/each}
      {#if toning === 'own'}<option value="own">own</option>{/if}
    </Select>
  </label>
  <SettingControl
    {bench}
    step="colour"
    name="zonesAmount"
    spoken="Amount of toning"
    idle={off ?? (toning === 'none' ? 'There is no toning: choose one first.' : null)}
  />
  <p class="quiet pt-1 text-xs">The colours stand on the page Zones, where they can be changed.</p>
</section>
