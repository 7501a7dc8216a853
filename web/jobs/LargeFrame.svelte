<!-- One frame of the job as large as the window: gone through by keys, and said what it is, without the bench. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { angleText } from '$core/render/readings/reading-text.ts';
  import type { FrameCard } from '$server/set/frame-card.ts';
  import { CHOICES, CHOICE_KEYS, CHOICE_SHAPES, type FrameChoiceName } from '../bench/state/choices.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Props {
    cards: readonly FrameCard[];
    /** The frame that is shown. */
    shown: string;
    show: (frame: string) => void;
    choose: (choice: FrameChoiceName) => void;
    close: () => void;
  }
  let { cards, shown, show, choose, close }: Props = $props();
  const ready = $derived(cards.filter(({ frame }) => frame.state === 'ready'));
  const at = $derived(ready.findIndex(({ frame }) => frame.id === shown));
  const card = $derived(ready[at]);
  const pictureOf = ({ frame }: FrameCard): string =>
    `/api/frames/${frame.id}/thumbnail?large&v=${frame.version}`;
  function go(by: number): void {
    const next = ready[at + by];
    if (next) show(next.frame.id);
  }
  function keydown(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const key = event.key.toLowerCase();
    const choice = CHOICES.find((name) => CHOICE_KEYS[name] === key);
    if (choice) choose(choice);
    else if (key === 'd' || key === 'arrowright' || key === 'arrowdown') go(1);
    else if (key === 'a' || key === 'arrowleft' || key === 'arrowup') go(-1);
    else if (key === ' ' || key === 'escape') close();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  let box = $state<HTMLElement>();
  $effect(() => box?.focus());
</script>

<svelte:window onkeydowncapture={keydown} />
{#if card}
  <div
    class="fixed inset-0 z-40 flex flex-col bg-sheet"
    role="dialog"
    aria-modal="true"
    aria-label={`${card.frame.name}, large`}
    tabindex="-1"
    bind:this={box}
  >
    <div class="flex min-h-0 flex-1 items-center justify-center p-1">
      {#key card.frame.id}
        <img
          class="max-h-full max-w-full object-contain"
          src={pictureOf(card)}
          alt={card.frame.name}
          data-testid="large"
        />
      {/key}
    </div>
    <div class="flex h-10 flex-none items-center gap-3 border-t border-t-line bg-panel px-3">
      <Button color="light" disabled={at === 0} {...hint('Previous frame (A)')} onclick={() => go(-1)}
        >‹ Previous</Button
      >
      <Button
        color="light"
        disabled={at === ready.length - 1}
        {...hint('Next frame (D)')}
        onclick={() => go(1)}>Next ›</Button
      >
      <b>{card.frame.name}</b>
      <span class="quiet">{at + 1} of {ready.length}</span>
      <span class="quiet"
        >{card.readings.plumb ? `plumb ${angleText(card.readings.plumb)}` : 'plumb not measured'}</span
      >
      {#if card.look}<span class="min-w-0 flex-1 truncate text-accent" {...hint(card.look)}
          >▽ {card.look}</span
        >
      {:else}<span class="flex-1"></span>{/if}
      {#each CHOICES as name (name)}
        <Button
          color="light"
          aria-pressed={card.frame.choice === name}
          {...hint(`This frame is ${name} (${CHOICE_KEYS[name].toUpperCase()})`)}
          onclick={() => choose(name)}><span aria-hidden="true">{CHOICE_SHAPES[name]}</span>{name}</Button
        >
      {/each}
      <Button color="light" href={`/frames/${card.frame.id}`}>Open</Button>
      <Button {...hint('Back to the job (Space)')} onclick={close}>Close</Button>
    </div>
  </div>
  <!-- Those before and after are fetched ahead. -->
  <div class="hidden">
    {#each [ready[at - 1], ready[at + 1]] as near (near?.frame.id)}
      {#if near}<img src={pictureOf(near)} alt="" />{/if}
    {/each}
  </div>
{/if}
