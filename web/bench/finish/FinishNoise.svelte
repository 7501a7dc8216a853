<!-- Noise: of light and of colour, against the sensor's own. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { noiseOf } from '$core/optics/noise.ts';
  import { SENSORS_OWN } from '$core/steps/finish/step.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import { hint } from '../../lib/hints/hint.ts';
  import JudgeAtFull from './JudgeAtFull.svelte';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
  }
  let { bench, sheet, off }: Props = $props();
  const finish = $derived(bench.recipe.finish);
  const noLight = $derived(finish.noise === 0 ? 'Light is left as it is: set Noise first.' : null);
  /** Stops below white of a dark part, in which noise is told. */
  const DARK = 5;
  const dark = $derived.by(() => {
    const { gain, read } = noiseOf(bench.facts);
    const light = 2 ** -DARK;
    return (100 * Math.sqrt(gain * light + read ** 2)) / light;
  });
</script>

<section class="column" aria-label="Noise">
  <SettingControl {bench} step="finish" name="noise" idle={off} />
  <SettingControl {bench} step="finish" name="noiseDetail" spoken="Detail of noise" idle={off ?? noLight} />
  <SettingControl {bench} step="finish" name="noiseColour" idle={off} />
</section>
<section class="column" aria-label="Noise of the sensor">
  <p class="text-sm" data-testid="sensor-noise">
    {bench.facts.noise ? 'Measured in this file' : 'Usual at its ISO'}: {dark.toFixed(dark < 10 ? 1 : 0)} % of the
    light, {DARK} EV below white.
  </p>
  <div class="flex flex-wrap items-center gap-1.25 pt-1.5">
    <Button
      class="px-2 text-sm"
      disabled={off !== null}
      {...hint('What the noise of this sensor, in this file, asks for')}
      onclick={() => bench.change('finish', { noise: SENSORS_OWN, noiseColour: SENSORS_OWN })}
      >By itself</Button
    >
  </div>
  <JudgeAtFull {sheet} what="Noise" />
</section>
