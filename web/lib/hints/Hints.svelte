<!-- Shows the hint of what is pointed at or focused, after half a second and beside it; a press or a key takes it away. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { Tooltip } from 'flowbite-svelte';
  import { flip, shift } from '@floating-ui/dom';

  const DELAY = 500;
  /** Where there is no room above and below (an edge as high as the window), to the side. */
  const AROUND = [
    flip({ fallbackPlacements: ['bottom', 'left', 'right'], padding: 4 }),
    shift({ padding: 4 })
  ];

  /** What a hint waits for, or is shown of; it is not shown again before the pointer or the focus has left. */
  let target: HTMLElement | null = null;
  let shown = $state('');
  let open = $state(false);
  let timer: ReturnType<typeof setTimeout> | undefined;

  const holder = (event: Event): HTMLElement | null =>
    event.target instanceof Element ? event.target.closest<HTMLElement>('[data-hint]') : null;

  function hide(): void {
    clearTimeout(timer);
    target?.removeAttribute('data-hinted');
    open = false;
  }
  function wait(next: HTMLElement | null): void {
    if (next === target) return;
    hide();
    target = next;
    if (next) timer = setTimeout(() => show(next), DELAY);
  }
  function show(of: HTMLElement): void {
    if (!of.isConnected) return;
    of.setAttribute('data-hinted', '');
    shown = of.dataset.hint ?? '';
    open = true;
  }

  $effect(() => {
    const over = (event: PointerEvent): void => {
      if (event.pointerType !== 'touch' && event.buttons === 0) wait(holder(event));
    };
    const focused = (event: FocusEvent): void => {
      if ((event.target as Element).matches(':focus-visible')) wait(holder(event));
    };
    // What is focused may be taken out of the page, in the middle of drawing it anew.
    const left = (): void => untrack(() => wait(null));
    const events = { pointerover: over, focusin: focused, focusout: left, pointerdown: hide, keydown: hide };
    for (const [name, heard] of Object.entries(events))
      document.addEventListener(name, heard as EventListener, true);
    document.documentElement.addEventListener('pointerleave', left);
    window.addEventListener('scroll', hide, true);
    return () => {
      left();
      for (const [name, heard] of Object.entries(events))
        document.removeEventListener(name, heard as EventListener, true);
      document.documentElement.removeEventListener('pointerleave', left);
      window.removeEventListener('scroll', hide, true);
    };
  });
</script>

<!-- What the toolkit listens to by itself; hints are told when to come. -->
<span hidden></span>
<Tooltip
  bind:isOpen={open}
  arrow={false}
  offset={6}
  reference="[data-hinted]"
  middlewares={AROUND}
  type="custom"
  class="max-w-75 rounded-md border border-line bg-panel px-2 py-1.25 text-ink shadow-lg"
  data-testid="hint">{shown}</Tooltip
>
