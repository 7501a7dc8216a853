<!-- A button of the band, and what opens below it: at once when pressed, and gone at once. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { Button, Popover } from 'flowbite-svelte';
  import { hint } from './hints/hint.ts';

  interface Props {
    /** On the button, and its hint. */
    text: string;
    told: string;
    label: string;
    open: boolean;
    /** Drawn pressed (default: while it is open). */
    pressed?: boolean;
    /** Class of its width. */
    width?: string;
    /** Made anew each time that it opens. */
    children: Snippet;
  }
  let { text, told, label, open = $bindable(), pressed, width = '', children }: Props = $props();

  /** Milliseconds that a button reached by Tab is rested on before it opens; one that is passed by stays shut. */
  const RESTED = 200;
  let delay = $state(RESTED);

  /** The toolkit opens by focus and by a pressed pointer: keys, which give a click without one, toggle as well. */
  function byKey(event: MouseEvent): void {
    if (event.detail === 0) open = !open;
  }

  /** Pressed to shut it, the button takes no focus from what is in the panel: by that the toolkit would open it once more. */
  function keepFocus(event: MouseEvent): void {
    if (open) event.preventDefault();
  }
</script>

<Button
  color="light"
  aria-pressed={pressed ?? open}
  onpointerdown={() => (delay = 0)}
  onmousedown={keepFocus}
  onkeydown={() => (delay = RESTED)}
  onblur={() => (delay = RESTED)}
  onclick={byKey}
  {...hint(told)}>{text}</Button
>
<!-- Nothing fades: what fades takes presses still, which are lost with it. -->
<Popover
  trigger="click"
  triggerDelay={delay}
  transitionParams={{ duration: 0 }}
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
