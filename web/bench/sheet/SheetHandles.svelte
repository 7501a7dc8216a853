<!-- What lies over the picture as objects of the keyboard: focused in order, named, moved by arrows. The pointer takes the shapes themselves. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { WAYS } from '../controls/ways.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import type { SheetHandle } from './sheet-handle.ts';

  let { handles }: { handles: readonly SheetHandle[] } = $props();
  const told = ({ press, remove }: SheetHandle): string =>
    'Arrows move it, Shift ten times as far, Alt a tenth.' +
    (press ? ' Enter takes it in or out.' : '') +
    (remove ? ' Delete removes it.' : '');

  function keydown(event: KeyboardEvent, handle: SheetHandle): void {
    const way = WAYS.find(([, , , key]) => key === event.key);
    if (event.ctrlKey || event.metaKey) return;
    if (way) {
      const by = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
      handle.nudge(way[0] * by, way[1] * by);
    } else if (event.key === 'Delete' || event.key === 'Backspace') handle.remove?.();
    else if (event.key === 'Enter' || event.key === ' ') handle.press?.();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<div role="group" aria-label="On the picture">
  {#each handles as handle (handle.id)}
    <div
      class="pointer-events-none absolute -m-3 h-6 w-6 rounded-full outline-offset-1 focus-visible:shadow-[0_0_0_3px_#fff] focus-visible:outline-3 focus-visible:outline-[#b3541e]"
      style:left="{handle.at[0]}px"
      style:top="{handle.at[1]}px"
      role="button"
      tabindex="0"
      data-handle={handle.id}
      aria-label={handle.label}
      {...hint(told(handle))}
      onkeydown={(event) => keydown(event, handle)}
      onfocus={() => handle.focused?.(true)}
      onblur={() => untrack(() => handle.focused?.(false))}
    ></div>
  {/each}
</div>
