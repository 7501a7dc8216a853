<!-- Primaries: where red, green and blue lie; greys stay. -->
<script lang="ts">
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';

  interface Props {
    bench: Bench;
    off: string | null;
  }
  let { bench, off }: Props = $props();
  const NAMES = ['red', 'green', 'blue'] as const;
</script>

{#each NAMES as name (name)}
  <section class="column" aria-label={name}>
    <h2>{name[0].toUpperCase()}{name.slice(1)}</h2>
    <SettingControl
      {bench}
      step="colour"
      name={`${name}Hue`}
      label="Hue"
      spoken={`Hue of ${name}`}
      idle={off}
    />
    <SettingControl
      {bench}
      step="colour"
      name={`${name}Saturation`}
      label="Saturation"
      spoken={`Saturation of ${name}`}
      idle={off}
    />
  </section>
{/each}
