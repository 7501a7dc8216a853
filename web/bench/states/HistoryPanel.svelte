<!-- What the frame went through: revisions that were kept, and every step in words; any of them can be gone to. -->
<script lang="ts">
  import { Button, Checkbox, Input } from 'flowbite-svelte';
  import equal from 'fast-deep-equal';
  import { completeRecipe } from '$core/recipe/recipe.ts';
  import { neutralRecipe } from '$core/recipe/switched-off.ts';
  import { describeChange } from '$core/recipe/describe-change.ts';
  import { angleText, straightText } from '$core/render/readings/reading-text.ts';
  import { call } from '$lib/call.ts';
  import type { Revision } from '$server/recipes/revisions.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import BandPopover from '../../lib/BandPopover.svelte';
  import StatePictures from './StatePictures.svelte';
  import type { FrameState } from './frame-state.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    open: boolean;
  }
  let { bench, sheet, open = $bindable() }: Props = $props();
  const path = $derived(`/api/frames/${bench.frame.id}/revisions`);
  let revisions = $state.raw<Revision[]>([]);
  let said = $state('');

  async function list(): Promise<void> {
    revisions = await call<Revision[]>(path);
  }
  /** Does what may fail in words. */
  async function tried(work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
      said = '';
      await list();
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
  $effect(() => {
    if (open) void tried(() => bench.readHistory());
  });
  export const keep = (): Promise<void> =>
    tried(() => call(path, { method: 'POST', body: { recipe: bench.recipe } }));
  const change = (id: string, body: { name?: string; forDelivery?: boolean }): Promise<void> =>
    tried(() => call(`${path}/${id}`, { method: 'PATCH', body }));
  const remove = (id: string): Promise<void> => tried(() => call(`${path}/${id}`, { method: 'DELETE' }));

  const kept = $derived(
    revisions.map((revision) => ({ ...revision, recipe: completeRecipe(revision.recipe) }))
  );
  const chosen = $derived(kept.find(({ recipe }) => equal(recipe, bench.recipe))?.id ?? '');
  const states = $derived(
    kept.map(({ id, letter, name, recipe }): FrameState => ({
      id,
      label: name ? `${letter} · ${name}` : letter,
      title: `Go to revision ${letter}`,
      apply: () => recipe
    }))
  );
  const delivered = $derived(kept.filter(({ for_delivery }) => for_delivery).length);
  function readingText(id: string): string {
    const { plumb, level, straight } = bench.readingsOf(kept.find((each) => each.id === id)!.recipe);
    const told = [
      plumb && `plumb ${angleText(plumb)}`,
      level && `level ${angleText(level)}`,
      straight && `straight ${straightText(straight)}`
    ].filter(Boolean);
    return told.length === 0 ? 'nothing measured' : told.join(', ');
  }

  const steps = $derived.by(() => {
    if (!open) return [];
    const { first, states: all, at } = bench.states;
    return all
      .map((state, i) => ({
        i,
        current: first + i === at,
        undone: first + i > at,
        text:
          i === 0
            ? first === 0
              ? 'As it came'
              : 'Earlier steps are forgotten'
            : describeChange(all[i - 1], state)
      }))
      .reverse();
  });
</script>

<BandPopover
  text="History"
  told="Steps of this frame, and revisions that are kept (Y)"
  label="History"
  width="w-95"
  bind:open
>
  <div class="flex items-center gap-2">
    <h2 class="flex-1 text-sm">Revisions</h2>
    <Button
      color="light"
      {...hint('Every step of this frame back to neutral; one Undo takes it back')}
      onclick={() => bench.become(neutralRecipe)}>All to neutral</Button
    >
    <Button color="light" {...hint('Keep the frame as it is now (Shift+Y)')} onclick={() => void keep()}
      >Keep this state</Button
    >
  </div>
  {#if kept.length === 0}
    <p class="quiet">None yet. A revision keeps the frame as it is now, to come back to or to deliver.</p>
  {:else}
    <div class="max-h-48 flex-none overflow-y-auto" data-testid="revisions">
      <StatePictures
        {bench}
        {sheet}
        {states}
        {chosen}
        choose={(id) => bench.take(kept.find((each) => each.id === id)!.recipe)}
        idle={null}
      />
    </div>
    <ul class="flex max-h-44 flex-none flex-col gap-1 overflow-y-auto" aria-label="Revisions">
      {#each kept as { id, letter, name, for_delivery } (id)}
        <li class="grid grid-cols-[14px_1fr_auto_20px] items-center gap-x-1.5">
          <b>{letter}</b>
          <Input
            class="h-6"
            aria-label={`Name of revision ${letter}`}
            placeholder="name"
            maxlength={80}
            value={name}
            onchange={(e) => void change(id, { name: e.currentTarget.value })}
          />
          <Checkbox
            checked={for_delivery}
            aria-label={`Deliver revision ${letter}`}
            onchange={(e) => void change(id, { forDelivery: e.currentTarget.checked })}>deliver</Checkbox
          >
          <Button
            color="alternative"
            class="ghost h-6 w-6 flex-none border-0 p-0"
            aria-label={`Delete revision ${letter}`}
            {...hint('Delete')}
            onclick={() => void remove(id)}>×</Button
          >
          <span class="quiet col-start-2 col-end-5 text-xs">{readingText(id)}</span>
        </li>
      {/each}
    </ul>
    <p class="quiet text-xs">
      {delivered === 0
        ? 'Deliveries take the frame as it stands.'
        : delivered === 1
          ? 'Deliveries take the marked revision.'
          : `Deliveries take all ${delivered}, told apart by their letters, or by {revision-name} in the file name.`}
    </p>
  {/if}
  {#if said}<p class="text-accent" role="status">{said}</p>{/if}
  <h2 class="border-t border-t-line pt-2 text-sm">Steps</h2>
  <ol class="min-h-24 overflow-y-auto" aria-label="Steps of the history" data-testid="steps">
    {#each steps as { i, current, undone, text } (i)}
      <li>
        <Button
          color="alternative"
          class={`ghost h-6 w-full border-0 px-1.5 py-0 text-left text-sm ${undone ? 'text-faint' : ''} aria-[current]:bg-soft! aria-[current]:font-semibold`}
          aria-current={current ? 'step' : undefined}
          onclick={() => bench.goTo(i)}><span class="truncate">{text}</span></Button
        >
      </li>
    {/each}
  </ol>
</BandPopover>
