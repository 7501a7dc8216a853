<!-- A box in which any command is found by typing, and done with Enter. -->
<script lang="ts">
  import { Input, Kbd, Modal } from 'flowbite-svelte';
  import { type Command, findCommands, keyText } from './controls/commands.ts';

  let { open = $bindable(), commands }: { open: boolean; commands: readonly Command[] } = $props();
  const MOST = 9;
  let text = $state('');
  let at = $state(0);
  const found = $derived(findCommands(commands, text).slice(0, MOST));
  $effect(() => {
    if (open) [text, at] = ['', 0];
  });

  function act(command: Command | undefined): void {
    if (!command || (command.idle?.() ?? null) !== null || command.release) return;
    open = false;
    command.run(1);
  }
  function keydown(event: KeyboardEvent): void {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) at = (at + step + found.length) % Math.max(1, found.length);
    else if (event.key === 'Enter') act(found[at]);
    else return;
    event.preventDefault();
  }
</script>

<Modal title="Find a command" bind:open size="sm" placement="top-center">
  <Input
    autofocus
    class="w-full!"
    aria-label="Command"
    aria-controls="found-commands"
    aria-activedescendant={`found-${at}`}
    role="combobox"
    aria-expanded="true"
    placeholder="What do you want to do?"
    bind:value={text}
    oninput={() => (at = 0)}
    onkeydown={keydown}
  />
  <ul id="found-commands" role="listbox" aria-label="Commands found">
    {#each found as command, i (command.id)}
      {@const idle = command.idle?.() ?? (command.release ? 'Hold its key.' : null)}
      <!-- The field above has the keys. -->
      <!-- svelte-ignore a11y_click_events_have_key_events -->
      <li
        class={['flex cursor-pointer items-center gap-2 rounded-sm px-2 py-1', i === at && 'bg-soft']}
        id={`found-${i}`}
        role="option"
        aria-selected={i === at}
        aria-disabled={idle !== null}
        onclick={() => act(command)}
      >
        <span class="quiet w-16 flex-none">{command.group}</span>
        <span class="min-w-0 flex-1 overflow-hidden text-ellipsis">{command.label}</span>
        {#if idle}<span class="quiet text-sm">{idle}</span>{/if}
        {#if command.keys[0]}<Kbd class="px-1.5 py-0 text-xs">{keyText(command.keys[0])}</Kbd>{/if}
      </li>
    {:else}
      <li class="quiet px-2 py-1">No command is called that.</li>
    {/each}
  </ul>
</Modal>
