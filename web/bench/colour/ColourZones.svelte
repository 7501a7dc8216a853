<!-- Zones: a colour laid over shadows, middle, highlights or all, along straight strips; where they meet, and how much. -->
<script lang="ts">
  import { Button, ButtonGroup } from 'flowbite-svelte';
  import { type Zone, colourSchema } from '$core/steps/colour/step.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import ZoneControls from './ZoneControls.svelte';
  import SettingControl from '../controls/SettingControl.svelte';
  import { hueColour } from './hue-colours.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    off: string | null;
  }
  let { bench, off }: Props = $props();
  const ZONES = ['zoneShadows', 'zoneMiddle', 'zoneHighlights', 'zoneAll'] as const;
  let which = $state<(typeof ZONES)[number]>('zoneShadows');
  const zone = $derived(bench.recipe.colour[which]);
  const label = $derived(colourSchema.properties[which].label);
  const change = (own: Partial<Zone>, moving: boolean): void =>
    bench.change('colour', { [which]: { ...zone, ...own } }, moving);
  const touched = ({ chroma, light, saturation }: Zone): boolean =>
    chroma !== 0 || light !== 0 || saturation !== 0;
  const noneSet = $derived(
    ZONES.some((name) => bench.recipe.colour[name].chroma !== 0)
      ? null
      : 'No zone has a colour yet: set Colour first.'
  );
</script>

<section class="column flex flex-[0_0_420px] flex-col" aria-label="Zone">
  <ButtonGroup class="pb-1.5">
    {#each ZONES as name (name)}
      {@const { hue, chroma } = bench.recipe.colour[name]}
      <Button
        color="light"
        class="h-6.5 gap-1.5"
        aria-pressed={which === name}
        {...hint(
          `Colours ${name === 'zoneAll' ? 'the whole picture' : `the ${colourSchema.properties[name].label.toLowerCase()}`} below`
        )}
        onclick={() => (which = name)}
      >
        <span
          class="inline-block h-2.5 w-4 border border-line"
          style:background={chroma === 0 ? 'var(--panel)' : hueColour(hue)}
        ></span>
        {colourSchema.properties[name].label}{touched(bench.recipe.colour[name]) ? ' ·' : ''}
      </Button>
    {/each}
  </ButtonGroup>
  <ZoneControls {zone} {label} {off} {change} />
</section>
<section class="column" aria-label="Where zones meet">
  <SettingControl {bench} step="colour" name="zonesAmount" idle={off ?? noneSet} />
  <SettingControl {bench} step="colour" name="zonesMeet" idle={off} />
  <SettingControl {bench} step="colour" name="zonesBlend" idle={off} />
  <p class="quiet pt-1.5 text-xs">
    Meet moves where shadows, middle and highlights part; Softness how softly.
  </p>
</section>
