<!-- A colour that is laid over a zone, its lightness, and the strength of the zone's own colours. -->
<script lang="ts">
  import type { Zone } from '$core/steps/colour/step.ts';
  import NumberControl from '../controls/NumberControl.svelte';
  import { HUE_STRIP } from './hue-colours.ts';

  interface Props {
    zone: Zone;
    /** What it is laid over, for the reader of the screen. */
    label: string;
    off: string | null;
    change: (own: Partial<Zone>, moving: boolean) => void;
  }
  let { zone, label, off, change }: Props = $props();
  const noColour = $derived(zone.chroma === 0 ? 'No colour is laid on: set Colour first.' : null);
  const CONTROLS = [
    { name: 'chroma', label: 'Colour', minimum: 0 },
    { name: 'light', label: 'Lightness', minimum: -100 },
    { name: 'saturation', label: 'Saturation', minimum: -100 }
  ] as const;
</script>

<NumberControl
  setting={{ label: 'Hue laid on', minimum: 0, maximum: 360, step: 1, default: 0, unit: '°' }}
  label={`Hue of ${label}`}
  value={zone.hue}
  idle={off ?? noColour}
  change={(hue, moving) => change({ hue }, moving)}
/>
<div class="mr-19.5 mb-0.5 ml-21 h-1.5" style:background={HUE_STRIP}></div>
{#each CONTROLS as { name, label: words, minimum } (name)}
  <NumberControl
    setting={{ label: words, minimum, maximum: 100, step: 1, default: 0 }}
    label={`${words} of ${label}`}
    value={zone[name]}
    idle={off}
    change={(value, moving) => change({ [name]: value }, moving)}
  />
{/each}
