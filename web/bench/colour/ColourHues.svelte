<!-- Hues of the whole frame, one by one. -->
<script lang="ts">
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import HueStrip from './HueStrip.svelte';
  import { colourView } from './colour-view.svelte.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
  }
  let { bench, sheet, off }: Props = $props();
  const mine = $derived(colourView(bench));
</script>

<HueStrip
  {bench}
  {sheet}
  {off}
  hues={bench.recipe.colour.hues}
  put={(hues, moving) => bench.change('colour', { hues: hues.map((node) => ({ ...node })) }, moving)}
  bind:node={mine.hueNode}
  onPicture
/>
