<!-- Export of this frame: a delivery of one, by any deliverable; and the pictures made of it so far. -->
<script lang="ts">
  import { Button, Modal, Progressbar, Select } from 'flowbite-svelte';
  import {
    type Deliverable,
    completeDeliverable,
    deliverableFault
  } from '$core/picture/output/deliverable-schema.ts';
  import { ratioInHand } from '$core/steps/crop/step.ts';
  import { type FormFault, call, faultOf } from '$lib/call.ts';
  import { LOST, hearEvents } from '$lib/hear-events.ts';
  import type { DeliverableRow } from '$server/deliveries/deliverables.ts';
  import type { Job } from '$server/jobs/jobs.ts';
  import type { ItemRow } from '$server/deliveries/deliveries.ts';
  import DeliverableFields from '../deliver/DeliverableFields.svelte';
  import { bytesText, whatText } from '../deliver/delivery-text.ts';
  import { downloadFile } from '../lib/save-file.ts';
  import type { Bench } from './state/bench-state.svelte.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    job: Job;
    open: boolean;
    /** Opens what gives the frame to another program. */
    handOver: () => void;
  }
  let { bench, job, open = $bindable(), handOver }: Props = $props();
  const named = $derived({
    job,
    frame: {
      ...bench.frame,
      taken: bench.facts.taken,
      ratio: ratioInHand(bench.recipe.crop)
    }
  });
  const OWN = completeDeliverable({ name: 'Export', quality: 92, pattern: '{frame}', metadata: 'all' });
  let wanted = $state<Deliverable>(structuredClone(OWN));
  let known = $state.raw<DeliverableRow[]>([]);
  let chosen = $state('');
  let rows = $state.raw<ItemRow[]>([]);
  let refused = $state.raw<FormFault | null>(null);
  const fault = $derived(deliverableFault(wanted));

  /** Pictures that were there when one was last asked for; what comes besides is fetched once it is done. */
  let before: ReadonlySet<string> | null = null;
  let waits = $state(false);
  function fetchDone(told: readonly ItemRow[]): void {
    if (!before) return;
    const asked = told.filter(({ id }) => !before!.has(id));
    if (asked.length === 0 || asked.some(({ state }) => state === 'queued' || state === 'running')) return;
    [before, waits] = [null, false];
    for (const row of asked.filter(({ state }) => state === 'done')) downloadFile(address(row));
  }

  $effect(() => {
    if (!open && !waits) return;
    void call<DeliverableRow[]>('/api/deliverables').then(
      (found) => (known = found),
      (reason: Error) => (refused = faultOf(reason))
    );
    return hearEvents<ItemRow[]>(
      `/api/frames/${bench.frame.id}/events`,
      (told) => {
        rows = told;
        fetchDone(told);
      },
      (isLost) => (refused = isLost ? { message: LOST } : null)
    );
  });

  function startFrom(id: string): void {
    chosen = id;
    wanted = structuredClone(known.find((row) => row.id === id)?.document ?? OWN);
  }

  async function start(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    refused = null;
    try {
      await bench.saver.flush();
      [before, waits] = [new Set(rows.map(({ id }) => id)), true];
      await call(`/api/frames/${bench.frame.id}/deliveries`, {
        method: 'POST',
        body: $state.snapshot(wanted)
      });
    } catch (reason) {
      [before, waits] = [null, false];
      refused = faultOf(reason);
    }
  }

  const act = (row: ItemRow, action: 'cancel' | 'retry'): Promise<void> =>
    call<void>(`/api/deliveries/${row.delivery_id}`, { method: 'POST', body: { action } }).catch(
      (reason: Error) => void (refused = faultOf(reason))
    );
  const address = (row: ItemRow): string => `/api/deliveries/${row.delivery_id}/items/${row.id}`;
</script>

<Modal title="Export" bind:open size="xl" class="export">
  <form onsubmit={start} class="flex flex-col gap-3" aria-label="Export settings">
    <div class="flex items-center gap-3">
      <label class="flex items-center gap-3"
        >Settings of
        <Select placeholder="" value={chosen} onchange={(event) => startFrom(event.currentTarget.value)}>
          <option value="">this export alone</option>
          {#each known as { id, document } (id)}<option value={id}>{document.name}</option>{/each}
        </Select>
      </label>
      <span class="quiet"
        >{whatText(wanted)}; the crop has {bench.plan.output.width} × {bench.plan.output.height} px at full size.</span
      >
    </div>
    {#key chosen}<DeliverableFields bind:wanted {named} folded fault={fault ?? refused} />{/key}
    <div class="foot flex items-center gap-3">
      <Button
        type="submit"
        size="sm"
        color="primary"
        disabled={fault !== null}
        {...hint('The picture is downloaded as soon as it is made')}>Export picture</Button
      >
      <Button
        color="light"
        size="sm"
        href={`/api/frames/${bench.frame.id}/recipe`}
        download
        {...hint('For the command line, with the look that it names')}>Recipe</Button
      >
      <Button
        color="light"
        size="sm"
        {...hint('As TIFF for another program to change; what it saves comes back by itself')}
        onclick={handOver}>Hand over…</Button
      >
      {#if refused && !refused.field}<p class="text-accent font-medium" role="alert">
          {refused.message}
        </p>{/if}
    </div>
  </form>
  <ul class="rows border-t border-t-line max-h-37.5 overflow-y-auto" aria-label="Pictures of this frame">
    {#each rows as row (row.id)}
      <li data-state={row.state}>
        {#if row.state === 'queued' || row.state === 'running'}
          <span class="flex-1 min-w-0"
            ><Progressbar progress={Math.round(row.progress * 100)} size="h-2" /></span
          >
          <span>{row.state === 'queued' ? 'waiting' : `${Math.round(row.progress * 100)} %`}</span>
          <Button color="light" onclick={() => act(row, 'cancel')}>Cancel</Button>
        {:else if row.state === 'done'}
          <span class="flex-1 min-w-0"
            >{row.placed}
            <span class="quiet">{row.width} × {row.height} px, {bytesText(row.bytes ?? 0)}</span></span
          >
          <Button color="light" href={address(row)} download>Picture</Button>
          <Button color="light" href={`${address(row)}/report`} download>Report</Button>
        {:else}
          <span class="quiet flex-1 min-w-0"
            >{row.file}: {row.state === 'failed'
              ? row.error
              : row.state === 'skipped'
                ? 'exists already'
                : 'cancelled'}</span
          >
          {#if row.state !== 'skipped'}
            <Button color="light" onclick={() => act(row, 'retry')}>Retry</Button>
          {/if}
        {/if}
      </li>
    {/each}
  </ul>
</Modal>

<style>
  .rows li {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 6px 0;
    border-bottom: 1px solid var(--soft);
  }
</style>
