<!-- What changes when a frame of an earlier rendition is rendered anew: both pictures, side by side. -->
<script lang="ts">
  import { Button, Modal } from 'flowbite-svelte';
  import { RENDITION } from '$core/settings/rendition.ts';
  import type { Bench } from './state/bench-state.svelte.ts';

  interface Props {
    bench: Bench;
    open: boolean;
  }
  let { bench, open = $bindable() }: Props = $props();
  /** When it was opened: the pictures are of the recipe as it is then. */
  const opened = $derived(open ? Date.now() : 0);
  const pictures = $derived([
    { title: 'As it was finished', rendition: bench.recipe.rendition },
    { title: 'Rendered anew', rendition: RENDITION }
  ]);
  const address = (rendition: number): string =>
    `/api/frames/${bench.frame.id}/thumbnail?rendition=${rendition}&at=${opened}`;

  function take(): void {
    bench.renderAnew();
    open = false;
  }
</script>

<Modal title="Render anew" bind:open size="xl">
  <p>
    The same settings, in the present rendition: hues stay on their way to white, and what a space cannot hold
    keeps its hue. Exports that were made stay as they are; Undo brings this frame back.
  </p>
  <div class="grid grid-cols-2 gap-3">
    {#each pictures as { title, rendition } (title)}
      <figure>
        <img class="w-full" src={address(rendition)} alt={title} />
        <figcaption class="quiet">{title}</figcaption>
      </figure>
    {/each}
  </div>
  <div class="flex gap-2">
    <Button color="primary" onclick={take}>Render anew</Button>
    <Button color="light" onclick={() => (open = false)}>Leave as it is</Button>
  </div>
</Modal>
