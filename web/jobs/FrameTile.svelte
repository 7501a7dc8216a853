<!-- One frame of a job: its picture as it is now, what it is, how true it is, and what it is in the job. -->
<script lang="ts">
  import { Badge, Button, Checkbox } from 'flowbite-svelte';
  import { CHOICES, CHOICE_SHAPES, type FrameChoiceName } from '../bench/state/choices.ts';
  import { WORD_SHAPES, frameWords } from './frame-state.ts';
  import { cameraText, exposureText, lensText } from '$lib/frame-text.ts';
  import type { Confidence } from '$core/steps/lines/true-up-itself.ts';
  import { type Placing, type Side, placeable } from './order-by-hand.ts';
  import type { FrameCard } from '$server/set/frame-card.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Props {
    card: FrameCard;
    placing: Placing;
    /** Which of a bracket it is; null: of none. */
    bracket: string | null;
    selected: boolean;
    select: (on: boolean, range: boolean) => void;
    choose: (choice: FrameChoiceName) => void;
    remove: () => void;
    pointed: (inside: boolean) => void;
  }
  /** How sure what was found is, by shape beside its word. */
  const CONFIDENCE_SHAPES: Record<Confidence, string> = { sure: '▲', fair: '△', look: '▽' };
  let { card, placing, bracket, selected, select, choose, remove, pointed }: Props = $props();
  const frame = $derived(card.frame);
  let range = false;
  /** On which side what is dragged would come. */
  let side = $state<Side | null>(null);

  const badge = $derived.by(() => {
    if (frame.state === 'preparing') return 'preparing…';
    const ratio = frame.recipe.crop?.ratio;
    if (bracket) return `bracket ${bracket}`;
    return ratio && ratio !== 'original' ? ratio : null;
  });
</script>

<li
  class={[
    'frame relative flex flex-col border bg-panel hover:border-ink',
    selected ? 'border-accent' : 'border-line',
    frame.choice === 'left out' && 'text-faint'
  ]}
  data-state={frame.state}
  {@attach (element: HTMLElement) => placeable(element, frame.id, placing, (at) => (side = at))}
  data-frame={frame.id}
  onpointerenter={() => pointed(true)}
  onpointerleave={() => pointed(false)}
>
  {#if side}
    <span
      class={['absolute inset-y-0 z-2 w-0.75 bg-accent', side === 'before' ? '-left-2.75' : '-right-2.75']}
      data-testid="comes-here"
    ></span>
  {/if}
  {#if frame.state === 'ready' && frame.facts}
    <Checkbox
      class="absolute top-1.5 left-1.5 z-1 h-6 w-6"
      aria-label={`Select ${frame.name}`}
      checked={selected}
      onclick={(event) => (range = event.shiftKey)}
      onchange={(event) => select(event.currentTarget.checked, range)}
    />
    <div
      class="absolute top-1.5 right-1.5 z-1 flex gap-0.5"
      role="group"
      aria-label={`What ${frame.name} is in its job`}
    >
      {#each CHOICES as choice (choice)}
        {#if choice !== 'undecided'}
          <Button
            color="light"
            class="h-6 w-6 bg-panel/85 p-0 text-sm"
            aria-label={`${frame.name}: ${choice}`}
            {...hint(`${choice}, or undecided again`)}
            aria-pressed={frame.choice === choice}
            onclick={() => choose(frame.choice === choice ? 'undecided' : choice)}
            >{CHOICE_SHAPES[choice]}</Button
          >
        {/if}
      {/each}
    </div>
    <a
      class="absolute inset-0"
      draggable="false"
      href={`/frames/${frame.id}`}
      aria-label={`Open ${frame.name}`}
    ></a>
    <div class="pointer-events-none flex min-h-0 flex-1 flex-col">
      <span
        class={[
          'grid h-47.5 flex-none place-items-center bg-[#d9d9d9]',
          frame.choice === 'left out' && 'opacity-40'
        ]}
      >
        <img
          draggable="false"
          class="max-h-47.5 max-w-full"
          loading="lazy"
          src={`/api/frames/${frame.id}/thumbnail?v=${frame.version}`}
          alt={frame.name}
        />
      </span>
      <span class="flex flex-col overflow-hidden px-2.75 pt-1 pb-1.5 leading-[1.45]">
        <span class="flex justify-between gap-2 text-lg leading-[1.5]" data-testid="state">
          <span class="flex gap-3 font-semibold whitespace-nowrap">
            {#each frameWords(card) as word (word)}
              <span class={word === 'wants a look' ? 'text-accent' : ''}
                ><span aria-hidden="true">{WORD_SHAPES[word]}</span> {word}</span
              >
            {/each}
          </span>
          {#if card.readings.plumb}
            <span class={['whitespace-nowrap', card.look === null ? 'text-faint' : 'text-accent']}
              >plumb {card.readings.plumb.rms.toFixed(2)}°</span
            >
          {/if}
        </span>
        <span class="flex justify-between gap-2">
          <strong class="overflow-hidden font-semibold text-ellipsis whitespace-nowrap"
            >{frame.name}{frame.room ? ` · ${frame.room}` : ''}</strong
          >
          {#if badge}<Badge color="gray" border class="flex-none border-line bg-panel text-ink">{badge}</Badge
            >{/if}
        </span>
        {#if card.handed.error}
          <span class="pointer-events-auto truncate text-accent" {...hint(card.handed.error)}
            >Handed over: {card.handed.error}</span
          >
        {:else if card.look}
          <span class="pointer-events-auto truncate text-accent" {...hint(card.look)}>{card.look}</span>
        {:else if frame.lines_said}
          <span class="pointer-events-auto truncate" {...hint(frame.lines_said.said)}
            >{CONFIDENCE_SHAPES[frame.lines_said.confidence ?? 'look']} {frame.lines_said.said}</span
          >
        {:else}
          <span class="truncate">{lensText(frame.facts)}</span>
        {/if}
        <span class="flex justify-between gap-2 whitespace-nowrap text-faint">
          <span class="truncate">{cameraText(frame.facts)}, {exposureText(frame.facts)}</span>
          {#if frame.outside}<span class="flex-none">changed outside, of {frame.outside.of}</span>
          {:else if card.handed.out}<span class="flex-none">handed over</span>
          {:else if card.lens !== 'lens profile'}<span
              class={['flex-none', card.lens === null && 'text-accent']}
              >{card.lens ?? 'no lens profile'}</span
            >{/if}
        </span>
      </span>
    </div>
  {:else}
    <span class="grid h-47.5 flex-none place-items-center bg-[#d9d9d9] text-[#555]">
      {#if card.early}
        <img
          draggable="false"
          class="max-h-47.5 max-w-full"
          src={`/api/frames/${frame.id}/thumbnail?early`}
          alt={frame.name}
        />
      {:else}{frame.state === 'preparing' ? 'preparing…' : 'cannot be opened'}{/if}
    </span>
    <span class="flex flex-col items-stretch overflow-auto px-2.75 py-1.5 leading-[1.45]">
      <span class="flex justify-between gap-2"
        ><strong>{frame.name}</strong>{#if card.early}<Badge
            color="gray"
            border
            class="border-line bg-panel text-ink">{badge}</Badge
          >{/if}</span
      >
      {#if frame.error}
        <span class="text-accent">{frame.error}</span>
        <Button color="light" class="flex-none" onclick={remove}>Remove</Button>
      {/if}
    </span>
  {/if}
</li>
