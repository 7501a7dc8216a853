<!-- One delivery: its progress, what can be done with it, and its pictures. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { Button, Modal, Progressbar } from 'flowbite-svelte';
  import { call } from '$lib/call.ts';
  import { LOST, hearEvents } from '$lib/hear-events.ts';
  import type { DeliveryAction, DeliveryRow, ItemRow } from '$server/deliveries/deliveries.ts';
  import { bytesText } from './delivery-text.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Props {
    id: string;
    frames: { id: string; version: number }[];
  }
  let { id, frames }: Props = $props();
  let delivery = $state<DeliveryRow | null>(null);
  let items = $state.raw<ItemRow[]>([]);
  let error = $state('');
  let looked = $state<ItemRow | null>(null);
  let looking = $state(false);

  const count = (...states: ItemRow['state'][]): number =>
    items.filter(({ state }) => states.includes(state)).length;
  const open = $derived(count('queued', 'running'));
  const share = $derived(
    items.length === 0
      ? 0
      : items.reduce(
          (sum, { state, progress }) => sum + (state === 'running' ? progress : state === 'queued' ? 0 : 1),
          0
        ) / items.length
  );
  const bytes = $derived(items.reduce((sum, item) => sum + (item.bytes ?? 0), 0));
  /** Rows shown at most: a list of thousands would only be slow. */
  const MOST_ROWS = 300;

  async function act(action: DeliveryAction): Promise<void> {
    try {
      await call(`/api/deliveries/${id}`, { method: 'POST', body: { action } });
      error = '';
    } catch (reason) {
      error = (reason as Error).message;
    }
  }
  onMount(() =>
    hearEvents<{ delivery: DeliveryRow; items: ItemRow[]; all: boolean }>(
      `/api/deliveries/${id}/events`,
      (told) => {
        delivery = told.delivery;
        const changed = new Map(told.items.map((item) => [item.id, item]));
        items = told.all ? told.items : items.map((item) => changed.get(item.id) ?? item);
      },
      (isLost) => (error = isLost ? LOST : '')
    )
  );

  const stateText = (item: ItemRow): string =>
    ({
      queued: delivery?.paused ? 'resting' : 'waiting',
      running: `${Math.round(item.progress * 100)} %`,
      done: `${item.width} × ${item.height}, ${bytesText(item.bytes ?? 0)}`,
      failed: item.error ?? 'failed',
      cancelled: 'cancelled',
      skipped: 'exists already: skipped'
    })[item.state];
  const versionOf = (frame: string): number => frames.find(({ id: other }) => other === frame)?.version ?? 0;
</script>

<div class="flex items-center gap-3 py-2.5 px-3">
  <span class="w-45"><Progressbar progress={Math.round(share * 100)} size="h-2" /></span>
  <span data-testid="delivery-state">
    {count('done')} of {items.length} done{count('failed') > 0 ? `, ${count('failed')} failed` : ''}{count(
      'skipped'
    ) > 0
      ? `, ${count('skipped')} skipped`
      : ''}{count('cancelled') > 0 ? `, ${count('cancelled')} cancelled` : ''}{delivery?.paused && open > 0
      ? ', resting'
      : ''}{bytes > 0 ? ` · ${bytesText(bytes)}` : ''}
  </span>
  {#if open > 0}
    {#if delivery?.paused}
      <Button color="light" onclick={() => act('resume')}>Go on</Button>
    {:else}
      <Button color="light" onclick={() => act('pause')}>Pause</Button>
    {/if}
    <Button color="light" onclick={() => act('cancel')}>Cancel</Button>
  {:else if count('failed', 'cancelled') > 0}
    <Button color="light" onclick={() => act('retry')}>Retry {count('failed', 'cancelled')}</Button>
  {/if}
  <span class="flex-1"></span>
  {#if count('done') > 0}
    <Button color="light" href={`/api/deliveries/${id}/manifest`} download>Manifest</Button>
    <Button color="light" href={`/api/deliveries/${id}/report`} target="_blank">Report</Button>
    <Button href={`/api/deliveries/${id}/zip`} download>All as ZIP</Button>
  {/if}
</div>
{#if error}<p class="bad" role="alert">{error}</p>{/if}
<ul
  class="grid grid-cols-[repeat(auto-fill,minmax(210px,1fr))] gap-3 pt-1 px-3 pb-3.5"
  aria-label="Pictures of this delivery"
>
  {#each items.slice(0, MOST_ROWS) as item (item.id)}
    <li class="flex flex-col min-w-0 leading-[1.45]" data-state={item.state}>
      {#if item.state === 'done'}
        <Button
          color="alternative"
          class="ghost border-0 p-0 picture grid place-items-center h-33 bg-[#d9d9d9]"
          {...hint('Look at it beside the frame as shot')}
          aria-label={`Look at ${item.placed}`}
          onclick={() => {
            looked = item;
            looking = true;
          }}
          ><img
            class="max-h-33 max-w-full"
            loading="lazy"
            src={`/api/deliveries/${id}/items/${item.id}?small=320`}
            alt={item.placed}
          /></Button
        >
      {:else}
        <span class="picture quiet grid place-items-center h-33 bg-[#d9d9d9]"
          >{item.state === 'running' ? `${Math.round(item.progress * 100)} %` : ''}</span
        >
      {/if}
      <span
        class="[display:-webkit-box] [-webkit-box-orient:vertical] [-webkit-line-clamp:2] [line-clamp:2] overflow-hidden wrap-anywhere text-sm leading-[1.3] mt-0.75"
        {...hint(item.placed ?? item.file)}>{item.placed ?? item.file}</span
      >
      <span class="line flex justify-between gap-2 text-sm">
        <span class:bad={item.state === 'failed'} class="quiet">{stateText(item)}</span>
        {#if item.state === 'done'}
          <a href={`/api/deliveries/${id}/items/${item.id}`} download>Download</a>
        {/if}
      </span>
    </li>
  {/each}
</ul>
{#if items.length > MOST_ROWS}
  <p class="quiet pt-0 px-3 pb-3">
    and {items.length - MOST_ROWS} more; all are in the ZIP and the delivery folder.
  </p>
{/if}

<Modal title={looked?.placed ?? ''} bind:open={looking} size="xl">
  {#if looked}
    <div class="beside grid grid-cols-[1fr_1fr] gap-3.5 items-center">
      <figure>
        <img
          src={`/api/frames/${looked.frame_id}/thumbnail?shot&v=${versionOf(looked.frame_id)}`}
          alt="As shot"
        />
        <figcaption class="text-center pt-1.5 text-sm">{looked.frame} as shot</figcaption>
      </figure>
      <figure>
        <img src={`/api/deliveries/${id}/items/${looked.id}?small=1100`} alt={looked.placed} />
        <figcaption class="text-center pt-1.5 text-sm">
          {looked.deliverable}: {stateText(looked)}{looked.quality ? `, quality ${looked.quality}` : ''}
        </figcaption>
      </figure>
    </div>
  {/if}
</Modal>

<style>
  .line a {
    text-decoration: underline;
  }
  .bad {
    color: var(--accent);
  }
  .beside img {
    max-width: 100%;
    max-height: 520px;
    margin: 0 auto;
  }
</style>
