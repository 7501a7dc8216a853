<!-- Other frames of the job, to be chosen. -->
<script lang="ts">
  import type { SvelteSet } from 'svelte/reactivity';
  import { Checkbox } from 'flowbite-svelte';
  import type { OtherFrame } from './step-parts.ts';

  let { frames, chosen }: { frames: readonly OtherFrame[]; chosen: SvelteSet<string> } = $props();
</script>

<ul class="list max-h-75 overflow-y-auto border border-line" aria-label="Frames to carry over to">
  {#each frames as { id, name, lens, focalLength } (id)}
    <li>
      <label>
        <Checkbox
          checked={chosen.has(id)}
          onchange={(e) => (e.currentTarget.checked ? chosen.add(id) : chosen.delete(id))}
        />
        <span>{name}</span>
        <span class="quiet">{lens ?? 'lens not named'}{focalLength ? `, ${focalLength} mm` : ''}</span>
      </label>
    </li>
  {/each}
</ul>

<style>
  .list label {
    display: flex;
    gap: 10px;
    align-items: center;
    padding: 5px 8px;
  }
</style>
