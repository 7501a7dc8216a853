<!-- The edge of the deck towards the sheet: dragged, moved by arrows, and set back by a double press. -->
<script lang="ts">
  import { BELOW, BOARD } from './share-room.ts';
  import type { Room } from './room-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  let { room }: { room: Room } = $props();
  const beside = $derived(room.beside);
  const edge = $derived(beside ? ('board' as const) : ('below' as const));
  const range = $derived(beside ? BOARD : BELOW);
  const now = $derived(room.dragged[edge]);
  let from: { at: number; size: number } | null = null;
  /** Along the way that makes the deck larger. */
  const placeOf = (event: PointerEvent): number => (beside ? event.clientX : -event.clientY);
  const STEP = 16;

  function keydown(event: KeyboardEvent): void {
    const by = {
      ArrowRight: beside ? 1 : 0,
      ArrowLeft: beside ? -1 : 0,
      ArrowUp: beside ? 0 : 1,
      ArrowDown: beside ? 0 : -1
    }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    room.dragTo(edge, now + by * STEP);
  }
</script>

<!-- A separator that can be moved is a control. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class={[
    'relative z-10 flex-none touch-none bg-line hover:bg-accent focus-visible:bg-accent',
    beside ? '-ml-px w-px cursor-col-resize' : '-mt-px h-px cursor-row-resize'
  ]}
  role="separator"
  tabindex="0"
  aria-label="Edge of the deck"
  aria-orientation={beside ? 'vertical' : 'horizontal'}
  aria-valuemin={range.least}
  aria-valuemax={range.most}
  aria-valuenow={now}
  {...hint('Drag for more room for the controls, or for the picture; press twice to set it back')}
  onpointerdown={(event) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    from = { at: placeOf(event), size: now };
  }}
  onpointermove={(event) => from && room.dragTo(edge, from.size + placeOf(event) - from.at)}
  onpointerup={() => (from = null)}
  ondblclick={() => room.dragTo(edge, null)}
  onkeydown={keydown}
>
  <span class={['absolute', beside ? '-left-1.5 inset-y-0 w-3' : '-top-1.5 inset-x-0 h-3']}></span>
</div>
