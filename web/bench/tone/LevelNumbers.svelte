<!-- Levels in numbers. -->
<script lang="ts">
  import { type Levels, toneSchema } from '$core/steps/tone/step.ts';
  import NumberControl from '../controls/NumberControl.svelte';

  interface Props {
    levels: Levels;
    off: string | null;
    change: (own: Partial<Levels>, moving: boolean) => void;
  }
  let { levels, off, change }: Props = $props();
  const NEUTRAL = toneSchema.properties.levels.default;
  const ENDS = [
    { name: 'black', label: 'Black' },
    { name: 'white', label: 'White' },
    { name: 'outBlack', label: 'To black' },
    { name: 'outWhite', label: 'To white' }
  ] as const;
</script>

<NumberControl
  setting={{ label: 'Middle', minimum: 0.1, maximum: 10, step: 0.01, default: 1 }}
  label="Middle of levels"
  range={[0.25, 2.5]}
  description="Above 1 the middle is lighter."
  value={levels.middle}
  idle={off}
  change={(middle, moving) => change({ middle }, moving)}
/>
{#each ENDS as { name, label } (name)}
  <NumberControl
    setting={{ label, minimum: 0, maximum: 100, step: 0.5, default: NEUTRAL[name] * 100, unit: '%' }}
    label={`${label} of levels`}
    value={levels[name] * 100}
    idle={off}
    change={(value, moving) => change({ [name]: value / 100 }, moving)}
  />
{/each}
