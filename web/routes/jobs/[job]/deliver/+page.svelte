<!-- Deliver: which frames become which deliverables, and what became of them. -->
<script lang="ts">
  import {
    Button,
    Checkbox,
    Input,
    Table,
    TableBody,
    TableBodyCell,
    TableBodyRow,
    TableHead,
    TableHeadCell
  } from 'flowbite-svelte';
  import { untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { invalidateAll } from '$app/navigation';
  import { call } from '$lib/call.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import { undoChanges } from '$lib/take-back.ts';
  import type { Pick, Planned } from '$server/deliveries/deliveries.ts';
  import TopBand from '../../../../jobs/TopBand.svelte';
  import DeliveryProgress from '../../../../deliver/DeliveryProgress.svelte';
  import { bytesText, secondsText, whatText } from '../../../../deliver/delivery-text.ts';
  import { trueUpFrames } from '../../../../jobs/true-up-frames.ts';
  import type { PageProps } from './$types';
  import { hint } from '../../../../lib/hints/hint.ts';

  let { data }: PageProps = $props();
  /** "frame deliverable" of every tick. */
  const ticked = new SvelteSet<string>();
  let planned = $state<Planned | null>(null);
  let said = $state('');
  let current = $state(untrack(() => data.deliveries[0]?.id ?? ''));
  const key = (frame: string, deliverable: string): string => `${frame} ${deliverable}`;
  const picks = $derived(
    data.frames.flatMap((frame) =>
      data.deliverables
        .filter(({ id }) => ticked.has(key(frame.id, id)))
        .map(({ id }): Pick => [frame.id, id])
    )
  );

  /** Those of the picked frames that a client would see lean or bow. */
  const notTrue = $derived(
    data.frames.filter(({ id, off }) => off.length > 0 && picks.some(([frame]) => frame === id))
  );
  /** How far truing them up has come, and what came of it. */
  let truing = $state('');
  async function trueUpThese(): Promise<void> {
    const { said, changed } = await trueUpFrames(notTrue, 'verticals', (text) => (truing = text));
    toasts.tell(said, { undo: undoChanges(data.job.id, changed) });
    truing = '';
    await invalidateAll();
  }

  $effect(() => {
    const wanted = picks;
    if (wanted.length === 0) {
      planned = null;
      said = '';
      return;
    }
    // An answer to an earlier question may come after that to a later one.
    let outdated = false;
    const timer = setTimeout(async () => {
      const path = `/api/jobs/${data.job.id}/deliveries/plan`;
      try {
        const answer = await call<Planned>(path, { method: 'POST', body: { picks: wanted } });
        if (!outdated) [planned, said] = [answer, ''];
      } catch (reason) {
        if (!outdated) [planned, said] = [null, (reason as Error).message];
      }
    }, 200);
    return () => {
      outdated = true;
      clearTimeout(timer);
    };
  });

  function tick(keys: string[], on: boolean): void {
    for (const one of keys) {
      if (on) ticked.add(one);
      else ticked.delete(one);
    }
  }
  const rowKeys = (frame: string): string[] => data.deliverables.map(({ id }) => key(frame, id));
  const columnKeys = (deliverable: string): string[] => data.frames.map(({ id }) => key(id, deliverable));
  const all = (keys: string[]): boolean => keys.length > 0 && keys.every((one) => ticked.has(one));

  async function start(): Promise<void> {
    try {
      const { id } = await call<{ id: string }>(`/api/jobs/${data.job.id}/deliveries`, {
        method: 'POST',
        body: { picks }
      });
      await invalidateAll();
      current = id;
      said = '';
    } catch (reason) {
      said = (reason as Error).message;
    }
  }

  /** Rooms as they are typed, by frame: what is loaded anew meanwhile does not write over them. */
  const typedRooms = $state<Record<string, string>>({});
  async function setRoom(frame: string, room: string): Promise<void> {
    try {
      await call(`/api/frames/${frame}`, { method: 'PATCH', body: { room } });
      await invalidateAll();
      if (typedRooms[frame] === room) delete typedRooms[frame];
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
</script>

<svelte:head><title>Deliver {data.job.name} · Line True</title></svelte:head>
<TopBand>
  <span class="quiet">/</span><a href="/">Jobs</a><span class="quiet">/</span><a href={`/jobs/${data.job.id}`}
    >{data.job.name}</a
  ><span class="quiet">/</span><span>Deliver</span>
  {#snippet actions()}
    <Button color="light" href={`/deliverables?job=${data.job.id}`}>Deliverables</Button>
  {/snippet}
</TopBand>
<main class="py-4 px-7 flex flex-col gap-4">
  <section class="border border-line bg-panel" aria-label="What is delivered">
    <div class="max-h-[max(300px,calc(100vh-390px))] overflow-auto">
      <Table>
        <TableHead class="sticky top-0 z-1 align-bottom">
          <TableHeadCell>Frame</TableHeadCell>
          <TableHeadCell>Room</TableHeadCell>
          {#each data.deliverables as { id, document } (id)}
            <TableHeadCell class="px-1">
              <label class="flex flex-col items-center gap-0.5" {...hint(whatText(document))}>
                <Checkbox
                  class="me-0"
                  aria-label={`All frames as ${document.name}`}
                  checked={all(columnKeys(id))}
                  onchange={(e) => tick(columnKeys(id), e.currentTarget.checked)}
                />
                <span>{document.name}</span>
                <span class="quiet max-w-32.5 text-center text-xs leading-[1.2] font-normal"
                  >{whatText(document)}</span
                >
              </label>
            </TableHeadCell>
          {/each}
        </TableHead>
        <TableBody>
          {#each data.frames as frame (frame.id)}
            <TableBodyRow>
              <TableBodyCell>
                <label class="flex items-center gap-2">
                  <Checkbox
                    class="me-0"
                    aria-label={`All of ${frame.name}`}
                    checked={all(rowKeys(frame.id))}
                    onchange={(e) => tick(rowKeys(frame.id), e.currentTarget.checked)}
                  />
                  <img
                    class="h-6.5 w-10 object-cover"
                    src={`/api/frames/${frame.id}/thumbnail?v=${frame.version}`}
                    alt=""
                  />
                  {frame.name}
                  {#if frame.revision}<span class="quiet" {...hint('Delivered of this frame')}
                      >{frame.revision}</span
                    >{/if}
                </label>
              </TableBodyCell>
              <TableBodyCell>
                <Input
                  class="w-30!"
                  aria-label={`Room of ${frame.name}`}
                  value={typedRooms[frame.id] ?? frame.room}
                  placeholder="room"
                  oninput={(e) => (typedRooms[frame.id] = (e.currentTarget as HTMLInputElement).value)}
                  onchange={(e) => setRoom(frame.id, e.currentTarget.value)}
                />
              </TableBodyCell>
              {#each data.deliverables as { id, document } (id)}
                <TableBodyCell class="text-center">
                  <Checkbox
                    class="me-0"
                    aria-label={`${frame.name} as ${document.name}`}
                    checked={ticked.has(key(frame.id, id))}
                    onchange={(e) => tick([key(frame.id, id)], e.currentTarget.checked)}
                  />
                </TableBodyCell>
              {/each}
            </TableBodyRow>
          {/each}
        </TableBody>
      </Table>
    </div>
    {#if notTrue.length > 0}
      <div
        class="flex items-start gap-3 border-t border-t-line px-3 py-2"
        role="group"
        aria-label="What is not true yet"
        data-testid="not-true"
      >
        <p class="max-h-16 overflow-auto text-accent">
          ▽ {notTrue.length === 1 ? 'One frame is' : `${notTrue.length} frames are`} not true yet:
          {notTrue.map(({ name, off }) => `${name} ${off.join(' and ')}`).join('; ')}.
        </p>
        <span class="flex-1"></span>
        <Button class="flex-none" color="light" disabled={truing !== ''} onclick={trueUpThese}
          >True up these</Button
        >
      </div>
    {/if}
    {#if truing}<p class="px-3 pb-1.5" role="status">{truing}</p>{/if}
    <div class="foot flex items-center gap-3 py-2.25 px-3 border-t border-t-line">
      <Button disabled={picks.length === 0 || planned === null} onclick={start}
        >Deliver {picks.length === 0 ? '' : picks.length}</Button
      >
      <p role="status" class={said ? 'text-accent' : ''}>
        {#if said}
          {said}
        {:else if planned}
          About {secondsText(planned.seconds)} and {bytesText(planned.bytes)}; first
          <span class="font-mono text-sm">{planned.items[0].file}</span>
        {:else}
          Tick which frames become which deliverables.
        {/if}
      </p>
      <span class="flex-1"></span>
      <span
        class="quiet max-w-95 overflow-hidden text-ellipsis whitespace-nowrap text-sm"
        {...hint(data.folder)}>Delivery folder: {data.folder}</span
      >
    </div>
  </section>
  {#if data.deliveries.length > 0}
    <section class="border border-line bg-panel" aria-label="Deliveries">
      <nav class="flex flex-wrap gap-1.5 py-2.25 px-3 border-b border-b-line">
        {#each data.deliveries as delivery, i (delivery.id)}
          <Button color="light" aria-pressed={current === delivery.id} onclick={() => (current = delivery.id)}
            >{data.deliveries.length - i}. {new Date(delivery.created_at).toLocaleString('en-GB', {
              day: 'numeric',
              month: 'short',
              hour: '2-digit',
              minute: '2-digit'
            })}</Button
          >
        {/each}
      </nav>
      {#key current}
        <DeliveryProgress id={current} frames={data.frames} />
      {/key}
    </section>
  {/if}
</main>
