<!-- A button of the band, and what opens below it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { Button, Popover } from 'flowbite-svelte';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    /** On the button, and its hint. */
    text: string;
    told: string;
    label: string;
    open: boolean;
    /** Drawn pressed (default: while it is open). */
    pressed?: boolean;
    /** Class of its width. */
    width: string;
    /** Made anew each time that it opens. */
    children: Snippet;
  }
  let { text, told, label, open = $bindable(), pressed, width, children }: Props = $props();
</script>

<Button color="light" aria-pressed={pressed ?? open} {...hint(told)}>{text}</Button>
<Popover
  trigger="click"
  placement="bottom-end"
  arrow={false}
  class="z-30 p-2 {width}"
  role="dialog"
  aria-label={label}
  bind:isOpen={open}
>
  {#if open}
    <div class="flex max-h-[calc(100vh-70px)] flex-col gap-2 text-sm">{@render children()}</div>
  {/if}
</Popover>
