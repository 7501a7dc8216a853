<!-- Coloured edges: the sizes of red and blue, and fringes that no size can mend. -->
<script lang="ts">
  import { measureLateral } from './measure-lateral.ts';
  import { Button } from 'flowbite-svelte';
  import { lensSchema } from '$core/steps/lens/step.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { lensView } from './lens-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  let { bench, off }: { bench: Bench; off: string | null } = $props();
  const mine = $derived(lensView(bench));
  const settings = lensSchema.properties;
  const lens = $derived(bench.recipe.lens);
  const noLateral = $derived(
    off ??
      (lens.measured || (bench.profile && bench.profile.lateral.length > 0)
        ? null
        : 'Nothing is known of this lens’s colour edges yet: measure them.')
  );
  const FRINGES = [
    { name: 'fringeOne', pick: 'pick one' },
    { name: 'fringeTwo', pick: 'pick two' }
  ] as const;
</script>

<section class="column" aria-label="Lateral colour">
  <h2>
    Red and blue against green
    {#if lens.measured}<span class="quiet">measured here</span>{/if}
  </h2>
  <SettingControl {bench} step="lens" name="lateral" idle={noLateral} />
  <SettingControl {bench} step="lens" name="lateralRed" idle={off} />
  <SettingControl {bench} step="lens" name="lateralBlue" idle={off} />
  <div class="flex items-center gap-1.5">
    <Button
      disabled={off !== null || bench.measured === null}
      {...hint("Measure the sizes of red and blue at the picture's own edges")}
      onclick={() => measureLateral(bench)}>Measure</Button
    >
    <Button
      {...hint('Takes back what was measured on the picture')}
      color="light"
      disabled={lens.measured === null}
      onclick={() => bench.change('lens', { measured: null })}>Undo sizes</Button
    >
    <p class="said text-[11.5px] leading-[1.25] max-h-7.5 overflow-y-auto" role="status">
      {mine.said}
    </p>
  </div>
</section>
{#each FRINGES as { name, pick } (name)}
  {@const hue = `${name}Hue` as const}
  {@const range = `${name}Range` as const}
  {@const idle = off ?? (lens[name] > 0 ? null : 'Set an amount first, or pick a fringe in the picture.')}
  <section class="column" aria-label={settings[name].label}>
    <h2 class="head flex items-center gap-2">
      {settings[name].label}
      <span
        class="w-3.5 h-3.5 border border-ink rounded-[2px]"
        style:background={`oklch(0.6 0.16 ${lens[hue]})`}
        {...hint(`Hues ${lens[hue] - lens[range] / 2}° to ${lens[hue] + lens[range] / 2}°`)}
      ></span>
      <Button
        color="light"
        disabled={off !== null}
        aria-pressed={mine.tool === pick}
        {...hint('Press on a coloured edge in the picture')}
        onclick={() => (mine.tool = mine.tool === pick ? 'none' : pick)}>Pick</Button
      >
    </h2>
    <SettingControl
      {bench}
      step="lens"
      {name}
      label="Amount"
      spoken={`${settings[name].label} amount`}
      idle={off}
    />
    <SettingControl {bench} step="lens" name={hue} spoken={`${settings[name].label} hue`} {idle} />
    <SettingControl {bench} step="lens" name={range} spoken={`${settings[name].label} range`} {idle} />
  </section>
{/each}
