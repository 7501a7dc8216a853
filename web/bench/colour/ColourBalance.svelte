<!-- White balance: in kelvin where the camera is known, by picked places, presets or by itself; and the strength of colours. -->
<script lang="ts">
  import { Button, Select } from 'flowbite-svelte';
  import { LIGHTS } from '$core/optics/camera-white.ts';
  import { markedByItself } from '$core/settings/set-by-itself.ts';
  import { colourSchema } from '$core/steps/colour/step.ts';
  import type { Vector3 } from '$core/math/vector3.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import NumberControl from '../controls/NumberControl.svelte';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { balanceByItself, settingsOf } from '$core/steps/colour/balance-by-itself.ts';
  import { AS_SHOT, currentWhite, whiteAsShot } from './balance.ts';
  import { colourView } from './colour-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
  }
  let { bench, sheet, off }: Props = $props();
  const mine = $derived(colourView(bench));
  const colour = $derived(bench.recipe.colour);
  const shot = $derived(whiteAsShot(bench));
  const white = $derived(currentWhite(bench));
  const asShot = $derived(
    colour.kelvin === null && colour.warmth === 0 && colour.tint === 0 && colour.neutrals.length === 0
  );
  const preset = $derived.by(() => {
    if (colour.kelvin === null) return asShot ? 'as shot' : 'own';
    const found = Object.entries(LIGHTS).find(
      ([, { kelvin, tint }]) => kelvin === colour.kelvin && tint === colour.kelvinTint
    );
    return found?.[0] ?? 'own';
  });
  const set = (kelvin: number, tint: number, moving = false): void =>
    bench.change('colour', { ...settingsOf({ kelvin, tint }), neutrals: colour.neutrals }, moving);

  async function automatic(): Promise<void> {
    const found = await sheet.preview?.ask<'white'>({ kind: 'white' });
    if (found) balanceFor(found.light, found.other);
  }

  function balanceFor(light: Vector3, other: Vector3 | null): void {
    const { settings, name } = balanceByItself(bench.facts, light);
    const next = { ...bench.recipe.colour, ...settings, neutrals: [], enabled: true };
    bench.change('colour', markedByItself(colourSchema, next));
    [mine.balanced, mine.otherLight] = [light, other];
    mine.said = other
      ? `Two lights, as it seems: set for ${name}; the other is ${balanceByItself(bench.facts, other).name}.`
      : 'The light’s colour as what is nearest to grey tells it.';
  }

  /** The other of two lights, as long as the picture stands as it was set for the one. */
  const other = $derived(
    mine.balanced &&
      mine.otherLight &&
      balanceByItself(bench.facts, mine.balanced).settings.kelvin === colour.kelvin
      ? mine.otherLight
      : null
  );

  /** What is to be known of the file's colours, where it tells less than it might. */
  const matrices = $derived.by(() => {
    const { white: camera } = bench.facts;
    if (!camera || camera.matrices.length > 1) return null;
    const [{ kelvin }] = camera.matrices;
    return camera.fromFile
      ? `This file has one colour matrix, for light of ${Math.round(kelvin / 100) * 100} K: under other light its colours are less sure.`
      : 'The colours are those that the raw library knows of the camera. A file that tells matrices of its own has them once it is added again.';
  });
  const away = $derived(bench.readings.neutral);
  const { kelvin: kelvinSetting, kelvinTint } = colourSchema.properties;
</script>

<section class="column" aria-label="White balance">
  {#if white && shot}
    <NumberControl
      setting={{ ...kelvinSetting, step: 10, default: Math.round(shot.kelvin) }}
      value={Math.round(white.kelvin)}
      range={[2000, 12000]}
      description={kelvinSetting.description}
      idle={off}
      change={(kelvin, moving) => set(kelvin, white.tint, moving)}
    />
    <NumberControl
      setting={{ ...kelvinTint, default: Math.round(shot.tint) }}
      value={Math.round(white.tint)}
      description={kelvinTint.description}
      idle={off}
      change={(tint, moving) => set(white.kelvin, tint, moving)}
    />
  {:else}
    <SettingControl {bench} step="colour" name="warmth" idle={off} />
    <SettingControl {bench} step="colour" name="tint" idle={off} />
  {/if}
  <div class="flex gap-1.25 pt-1.5">
    {#if white}
      <Select
        {...hint('White balance for a kind of light')}
        placeholder=""
        class="w-34!"
        aria-label="Light"
        disabled={off !== null}
        value={preset}
        onchange={(event) => {
          const name = event.currentTarget.value;
          if (name === 'as shot') bench.change('colour', AS_SHOT);
          else if (name in LIGHTS) {
            const { kelvin, tint } = LIGHTS[name as keyof typeof LIGHTS];
            set(kelvin, tint);
          }
        }}
      >
        {#each ['as shot', ...Object.keys(LIGHTS)] as name (name)}<option value={name}>{name}</option>{/each}
        {#if preset === 'own'}<option value="own">own</option>{/if}
      </Select>
    {/if}
    <Button
      {...hint('The white balance that the camera set')}
      color="light"
      disabled={off !== null || asShot}
      onclick={() => bench.change('colour', AS_SHOT)}>As shot</Button
    >
    <Button
      {...hint('From what the picture shows of the light')}
      color="light"
      disabled={off !== null}
      onclick={() => void automatic()}>By itself</Button
    >
  </div>
</section>
<section class="column" aria-label="Neutral">
  <div class="mb-1.5 flex gap-1.25">
    <Button
      color="light"
      disabled={off !== null}
      aria-pressed={mine.tool === 'neutral'}
      {...hint('Press on what should be a grey without colour (N)')}
      onclick={() => (mine.tool = mine.tool === 'neutral' ? 'none' : 'neutral')}>Pick</Button
    >
    <Button
      color="light"
      disabled={off !== null || colour.neutrals.length === 0}
      aria-pressed={mine.tool === 'another'}
      {...hint('Press on another place that should be grey: the mean of all is made neutral')}
      onclick={() => (mine.tool = mine.tool === 'another' ? 'none' : 'another')}>Pick another</Button
    >
  </div>
  {#if matrices && mine.said === '' && mine.tool === 'none'}
    <p class="quiet text-sm leading-[1.35]">{matrices}</p>
  {/if}
  <p class="text-sm leading-[1.35]" role="status">
    {mine.tool === 'none' ? mine.said : 'Press on a wall, a paper or a stone that should be grey.'}
  </p>
  {#if other && mine.tool === 'none'}
    <Button
      color="light"
      class="mt-1 self-start"
      disabled={off !== null}
      {...hint('Balances the picture for the other of the two lights')}
      onclick={() => balanceFor(other, mine.balanced)}>The other light</Button
    >
  {/if}
  {#if away}
    <p class="pt-1 text-sm" data-testid="neutral-reading">
      Neutral: <b>{away.rms.toFixed(1)}</b> from grey, {away.places}
      {away.places === 1 ? 'place' : 'places'}
    </p>
  {/if}
</section>
<section class="column" aria-label="Strength of colours">
  <SettingControl {bench} step="colour" name="saturation" idle={off} />
  <SettingControl {bench} step="colour" name="vibrance" idle={off} />
  <SettingControl {bench} step="colour" name="skyStrength" idle={off} />
  <SettingControl {bench} step="colour" name="warmStrength" idle={off} />
</section>
