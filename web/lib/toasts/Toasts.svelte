<!-- What was done to many frames, and the way back; it stays while it is pointed at or focused. -->
<script lang="ts">
  import { Button, Toast } from 'flowbite-svelte';
  import { SHOWN_FOR, toasts } from './toasts.svelte.ts';

  let held = $state(false);
  $effect(() => {
    if (held || toasts.list.length === 0) return;
    const { key } = toasts.list[0];
    const timer = setTimeout(() => toasts.drop(key), SHOWN_FOR);
    return () => clearTimeout(timer);
  });
</script>

<div
  class="fixed bottom-14 left-1/2 z-40 flex -translate-x-1/2 flex-col gap-1.5"
  role="status"
  data-testid="toasts"
  onpointerenter={() => (held = true)}
  onpointerleave={() => (held = false)}
  onfocusin={() => (held = true)}
  onfocusout={() => (held = false)}
>
  {#each toasts.list as toast (toast.key)}
    <Toast dismissable={false} class="w-auto max-w-150 rounded-md border border-line bg-panel p-2 shadow-lg">
      <div class={['flex items-center gap-2.5 text-sm', toast.trouble ? 'text-accent' : 'text-ink']}>
        <span>{toast.text}</span>
        {#if toast.undo}<Button color="light" onclick={() => void toasts.undo(toast)}>Undo</Button>{/if}
        <Button
          color="alternative"
          class="ghost border-0 px-1"
          aria-label="Put this message away"
          onclick={() => toasts.drop(toast.key)}>×</Button
        >
      </div>
    </Toast>
  {/each}
</div>
