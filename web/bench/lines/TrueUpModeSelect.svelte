<!-- What truing up by itself makes true. -->
<script lang="ts">
  import { Select } from 'flowbite-svelte';
  import type { TrueUpMode } from '$core/steps/lines/solve-rotation.ts';
  import { hint } from '../../lib/hints/hint.ts';

  let { mode = $bindable() }: { mode: TrueUpMode } = $props();
  const WORDS: Record<TrueUpMode, string> = {
    verticals: 'verticals',
    level: 'level only',
    both: 'verticals and level',
    front: 'whole front'
  };
</script>

<Select
  {...hint('What is made true: the verticals, the horizon, both, or a front as if seen square on')}
  placeholder=""
  aria-label="What becomes true"
  bind:value={mode}
>
  {#each Object.entries(WORDS) as [name, words] (name)}<option value={name}>{words}</option>{/each}
</Select>
