<!-- Where the deck stands. -->
<script lang="ts">
  import { Button, ButtonGroup } from 'flowbite-svelte';
  import type { Room } from './room-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  let { room }: { room: Room } = $props();
  const PLACES = [
    { place: 'auto', label: 'by itself', title: 'Where the picture loses least' },
    { place: 'below', label: 'below', title: 'Under the sheet, in columns' },
    { place: 'beside', label: 'beside', title: 'Beside the sheet, under the course' }
  ] as const;
</script>

<span class="quiet">Deck</span>
<ButtonGroup>
  {#each PLACES as { place, label, title } (place)}
    <Button
      color="light"
      {...hint(title)}
      aria-pressed={room.place === place}
      onclick={() => (room.place = place)}>{label}</Button
    >
  {/each}
</ButtonGroup>
<Button
  color="light"
  class="self-start"
  {...hint('Fold the deck away (B)')}
  aria-pressed={room.folded}
  onclick={room.fold}>folded away</Button
>
