<!-- A page of what an area does, or of the edge of its shape: controls in columns, from the settings' own definitions. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { SettingPath } from '$core/settings/nested.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import { areasOf, chosenArea } from './edit-areas.ts';
  import NoArea from './NoArea.svelte';

  interface Props {
    bench: Bench;
    off: string | null;
    columns: readonly {
      label: string;
      of: 'shape' | 'tone' | 'colour';
      names: readonly string[];
      idle?: (name: string) => string | null;
      /** What stands below its settings. */
      more?: Snippet;
    }[];
    /** Why none of them acts on anything now. */
    idle?: string | null;
  }
  let { bench, off, columns, idle: resting = null }: Props = $props();
  const chosen = $derived(chosenArea(bench));
  const within = (of: Props['columns'][number]['of']): SettingPath => {
    if (of === 'shape') return ['shapes', areasOf(bench).shapes.indexOf(chosen!.shape)];
    return ['list', chosen!.index, 'settings', of];
  };
</script>

{#if chosen}
  {#each columns as { label, of, names, idle, more } (label)}
    <section class="column" aria-label={label}>
      {#each names as name (name)}
        <SettingControl
          {bench}
          step="areas"
          {name}
          within={within(of)}
          idle={off ?? resting ?? idle?.(name) ?? null}
        />
      {/each}
      {@render more?.()}
    </section>
  {/each}
{:else}
  <NoArea />
{/if}
