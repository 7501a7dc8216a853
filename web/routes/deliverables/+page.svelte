<!-- The studio's deliverables: ready-made ones, its own, and all their settings. -->
<script lang="ts">
  import { Button, Fileupload } from 'flowbite-svelte';
  import { untrack } from 'svelte';
  import { goto, invalidateAll } from '$app/navigation';
  import { type Deliverable, completeDeliverable } from '$core/picture/output/deliverable-schema.ts';
  import { type FormFault, call, faultOf } from '$lib/call.ts';
  import DeliverableForm from '../../deliver/DeliverableForm.svelte';
  import { whatText } from '../../deliver/delivery-text.ts';
  import TopBand from '../../jobs/TopBand.svelte';
  import type { PageProps } from './$types';

  let { data }: PageProps = $props();
  let current = $state(untrack(() => data.deliverables[0].id));
  let said = $state('');
  let refused = $state.raw<FormFault | null>(null);
  const row = $derived(data.deliverables.find(({ id }) => id === current) ?? data.deliverables[0]);
  let files = $state<HTMLInputElement>();

  async function act(work: () => Promise<string | void>, done: string): Promise<void> {
    try {
      const id = await work();
      await invalidateAll();
      if (id) current = id;
      [said, refused] = [done, null];
    } catch (reason) {
      refused = faultOf(reason);
    }
  }
  const add = (document: Deliverable, done: string): Promise<void> =>
    act(async () => {
      const { id } = await call<{ id: string }>('/api/deliverables', { method: 'POST', body: document });
      return id;
    }, done);
  const copy = (): Promise<void> =>
    add(
      { ...row.document, name: `${row.document.name} copy`.slice(0, 80) },
      'Copied: change it to your needs.'
    );
  const save = (document: Deliverable): Promise<void> =>
    act(() => call(`/api/deliverables/${row.id}`, { method: 'PUT', body: document }), 'Saved.');
  const remove = (): Promise<void> =>
    act(async () => {
      await call(`/api/deliverables/${row.id}`, { method: 'DELETE' });
      return data.deliverables[0].id;
    }, 'Removed.');
  async function take(): Promise<void> {
    const [file] = files?.files ?? [];
    if (files) files.value = '';
    if (!file) return;
    await act(async () => {
      let body: unknown;
      try {
        body = JSON.parse(await file.text());
      } catch {
        throw new Error(`${file.name} is not JSON.`);
      }
      await call('/api/deliverables/file', { method: 'POST', body });
    }, `Added what ${file.name} holds.`);
  }
</script>

<svelte:head><title>Deliverables · Line True</title></svelte:head>
<TopBand>
  <span class="quiet">/</span><a href="/">Jobs</a>
  {#if data.job}
    <span class="quiet">/</span><a href={`/jobs/${data.job.id}`}>{data.job.name}</a>
    <span class="quiet">/</span><a href={`/jobs/${data.job.id}/deliver`}>Deliver</a>
  {/if}
  <span class="quiet">/</span><span>Deliverables</span>
  {#snippet actions()}
    <Button color="light" onclick={() => files?.click()}>Import</Button>
    <Button color="light" href="/api/deliverables/file" download>Export</Button>
    <Button
      onclick={() =>
        add(completeDeliverable({ name: 'New deliverable' }), 'Made: name it and say what it is.')}
      >New</Button
    >
    {#if data.job}<Button color="light" onclick={() => goto(`/jobs/${data.job!.id}/deliver`)}>Done</Button
      >{/if}
  {/snippet}
</TopBand>
<Fileupload
  class="hidden"
  accept=".json,application/json"
  bind:elementRef={files}
  onchange={take}
  data-testid="deliverables-file"
/>
<main class="grid grid-cols-[290px_1fr] gap-4.5 py-4 px-7">
  <ul aria-label="Deliverables">
    {#each data.deliverables as { id, document, shipped } (id)}
      <li>
        <Button
          color="alternative"
          class="ghost border-0 h-auto block w-full py-2 px-3 text-left border-b border-b-soft border-l-3 border-l-transparent leading-[1.4] whitespace-normal rounded-none aria-pressed:border-l-accent! aria-pressed:bg-paper! aria-pressed:text-ink"
          aria-pressed={id === row.id}
          onclick={() => (current = id)}
        >
          <strong>{document.name}</strong>{#if shipped}<span
              class="text-xs border border-line py-0 px-1.25 ml-1.5">ready-made</span
            >{/if}
          <span class="quiet block text-sm">{whatText(document)}</span>
        </Button>
      </li>
    {/each}
  </ul>
  <section class="border border-line bg-panel py-3.5 px-4.5" aria-label="Settings">
    {#key row.id}
      <DeliverableForm document={row.document} fixed={row.shipped} {save} {copy} {remove} {said} {refused} />
    {/key}
  </section>
</main>

<style>
  ul {
    border: 1px solid var(--line);
    background: var(--panel);
    align-self: start;
    max-height: calc(100vh - 90px);
    overflow-y: auto;
  }
</style>
