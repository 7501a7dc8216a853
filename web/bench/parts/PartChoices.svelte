<!-- Steps to choose from, each with the groups of its settings. -->
<script lang="ts">
  import type { SvelteSet } from 'svelte/reactivity';
  import { Checkbox } from 'flowbite-svelte';
  import type { CarriedPart } from '$core/recipe/carry-over.ts';
  import { EVERY_STEP, stepLabel } from '$core/recipe/steps.ts';
  import { toggleGroup, toggleStep } from './chosen-parts.ts';

  let { parts, label }: { parts: SvelteSet<CarriedPart>; label: string } = $props();
</script>

<div class="flex flex-col gap-1" role="group" aria-label={label}>
  {#each EVERY_STEP as { name, carries } (name)}
    <div class="grid grid-cols-[96px_1fr] items-start">
      <Checkbox
        checked={parts.has(name)}
        onchange={(event) => toggleStep(parts, name, event.currentTarget.checked)}>{stepLabel(name)}</Checkbox
      >
      <div class="flex flex-wrap gap-x-3">
        {#each carries.groups as group (group.name)}
          <Checkbox
            class="quiet"
            checked={parts.has(`${name}.${group.name}`)}
            onchange={(event) =>
              toggleGroup(parts, name, `${name}.${group.name}`, event.currentTarget.checked)}
            >{group.label}</Checkbox
          >
        {/each}
      </div>
    </div>
  {/each}
</div>
