<!-- All shortcuts, by what they are for. -->
<script lang="ts">
  import { Kbd, Modal } from 'flowbite-svelte';
  import { type Command, keyText } from './controls/commands.ts';

  let { open = $bindable(), commands }: { open: boolean; commands: readonly Command[] } = $props();
  const groups = $derived(
    [...new Set(commands.map(({ group }) => group))].map((group) => ({
      group,
      rows: commands.filter((command) => command.group === group && command.keys.length > 0)
    }))
  );
  const MORE = [
    ['Wheel, pinch', 'Zoom about the pointer'],
    [
      'Alt drag, middle button',
      'Move the picture while a tool is in hand; in Areas Alt takes away what is drawn'
    ],
    ['Arrows in a number', 'Nudge it: Shift x10, Alt /10'],
    ['Drag outside the crop', 'Turn the picture']
  ];
</script>

<Modal title="Shortcuts" bind:open size="lg">
  <div class="columns-2 gap-8 text-sm">
    {#each groups as { group, rows } (group)}
      <h2 class="mt-2 mb-1 text-sm first:mt-0">{group}</h2>
      <dl class="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
        {#each rows as command (command.id)}
          <dt>
            <Kbd class="px-1.5 py-0 text-xs"
              >{command.tenfold ? '(Shift+) ' : ''}{keyText(command.keys[0])}{command.release
                ? ' held'
                : ''}</Kbd
            >
          </dt>
          <dd>{command.label}</dd>
        {/each}
      </dl>
    {/each}
    <h2 class="mt-2 mb-1 text-sm">With the pointer</h2>
    <dl class="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
      {#each MORE as [how, what] (how)}
        <dt>{how}</dt>
        <dd class="quiet">{what}</dd>
      {/each}
    </dl>
  </div>
</Modal>
