<!-- Light or dim, and what lies about the picture. -->
<script lang="ts">
  import { Button, ButtonGroup, Popover } from 'flowbite-svelte';
  import { type Look, SURROUNDS, THEMES, keepLook, lookInHand } from './look.ts';

  let open = $state(false);
  let look = $state<Look>({ theme: 'light', surround: 'grey' });
  $effect(() => {
    if (open) look = lookInHand();
  });
  function take(change: Partial<Look>): void {
    look = { ...look, ...change };
    keepLook(look);
  }
</script>

<Button color="light" title="Light or dim, and what lies about the picture">Look</Button>
<Popover trigger="click" placement="bottom-end" arrow={false} class="z-30 p-2" bind:isOpen={open}>
  <div class="flex flex-col gap-2 text-sm">
    <span class="quiet">Theme</span>
    <ButtonGroup>
      {#each THEMES as theme (theme)}
        <Button color="light" aria-pressed={look.theme === theme} onclick={() => take({ theme })}
          >{theme}</Button
        >
      {/each}
    </ButtonGroup>
    <span class="quiet">About the picture</span>
    <ButtonGroup>
      {#each SURROUNDS as surround (surround)}
        <Button color="light" aria-pressed={look.surround === surround} onclick={() => take({ surround })}
          >{surround}</Button
        >
      {/each}
    </ButtonGroup>
  </div>
</Popover>
