<!-- Levels of an area, under the histogram of what it covers. -->
<script lang="ts">
  import type { Area } from '$core/steps/areas/step.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import LevelNumbers from '../tone/LevelNumbers.svelte';
  import CoveredTones from './CoveredTones.svelte';
  import { areasView } from './areas-view.svelte.ts';
  import { setInArea } from './edit-areas.ts';

  let { bench, area, off }: { bench: Bench; area: Area; off: string | null } = $props();
  const { levels } = $derived(area.settings.tone);
</script>

<CoveredTones counts={areasView(bench).histogram?.luminance ?? []} ends={[levels.black, levels.white]} />
<LevelNumbers
  {levels}
  {off}
  change={(own, moving) => setInArea(bench, 'tone', { levels: { ...levels, ...own } }, moving)}
/>
