<!-- Light or dim, and what lies about the picture. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { Button, ButtonGroup } from 'flowbite-svelte';
  import { type Appearance, SURROUNDS, THEMES, keepAppearance, appearanceInHand } from './appearance.ts';
  import BandPopover from './BandPopover.svelte';

  /** What else is chosen here. */
  let { children }: { children?: Snippet } = $props();
  let open = $state(false);
  let appearance = $state<Appearance>({ theme: 'light', surround: 'grey' });
  $effect(() => {
    if (open) appearance = appearanceInHand();
  });
  function take(change: Partial<Appearance>): void {
    appearance = { ...appearance, ...change };
    keepAppearance(appearance);
  }
</script>

<BandPopover text="View" told="Light or dim, and what lies about the picture" label="View" bind:open>
  <span class="quiet">Theme</span>
  <ButtonGroup>
    {#each THEMES as theme (theme)}
      <Button color="light" aria-pressed={appearance.theme === theme} onclick={() => take({ theme })}
        >{theme}</Button
      >
    {/each}
  </ButtonGroup>
  <span class="quiet">About the picture</span>
  <ButtonGroup>
    {#each SURROUNDS as surround (surround)}
      <Button color="light" aria-pressed={appearance.surround === surround} onclick={() => take({ surround })}
        >{surround}</Button
      >
    {/each}
  </ButtonGroup>
  {@render children?.()}
</BandPopover>
