<!-- Says when the picture is shown too small to judge what acts on its pixels, and offers to show them. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    sheet: SheetState;
    /** What is to be judged. */
    what: string;
  }
  let { sheet, what }: Props = $props();
  /** Screen pixels for one of the picture from which on it is shown one for one. */
  const ENOUGH = 0.99;
</script>

{#if sheet.zoom < ENOUGH}
  <p class="quiet pt-1.5 text-sm" role="status" data-testid="too-small">
    {what} cannot be judged at {Math.round(sheet.zoom * 100)} %.
    <Button
      color="light"
      class="px-2 text-sm"
      {...hint('Shows the pixels of the picture one for one, as the file gets them')}
      onclick={() => sheet.zoomTo(1)}>Show 1:1</Button
    >
  </p>
{:else}
  <p class="quiet pt-1.5 text-sm" data-testid="as-the-file">What is seen is what the file gets.</p>
{/if}
