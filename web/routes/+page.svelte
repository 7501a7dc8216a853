<script lang="ts">
  import { onMount } from 'svelte';
  import { goto } from '$app/navigation';
  import { Button, Checkbox, Fileupload, Input, Modal, Progressbar, Select } from 'flowbite-svelte';
  import JobFields from '../jobs/JobFields.svelte';
  import { JOB_ORDERS, type JobOrder, jobsShown, nameFor } from '../jobs/job-order.ts';
  import { droppedFiles } from '../jobs/dropped-files.ts';
  import { hint } from '$lib/hints/hint.ts';
  import { sendFile } from '$lib/send-file.ts';
  import { leaveWaiting } from '../jobs/uploads.svelte.ts';
  import ViewMenu from '$lib/ViewMenu.svelte';
  import TopBand from '../jobs/TopBand.svelte';
  import { type FormFault, call, faultOf } from '$lib/call.ts';
  import { LOST, hearEvents } from '$lib/hear-events.ts';
  import type { JobSummary } from '$server/jobs/jobs.ts';
  import type { DemoProgress } from '$server/start/demo-progress.ts';
  import type { PageProps } from './$types';

  let { data }: PageProps = $props();
  let told = $state.raw<{ jobs: JobSummary[]; demo: DemoProgress | null } | null>(null);
  let lost = $state(false);
  const jobs = $derived(told?.jobs ?? data.jobs);
  const demo = $derived(told ? told.demo : data.demo);
  onMount(() =>
    hearEvents<NonNullable<typeof told>>(
      '/api/jobs/events',
      (news) => (told = news),
      (isLost) => (lost = isLost)
    )
  );
  let adding = $state(false);
  let fault = $state.raw<FormFault | null>(null);
  const EMPTY = { name: '', client: '', site: '', due: '' };
  let input = $state({ ...EMPTY });
  /** Files that were dropped before there is a job for them. */
  let dropped = $state.raw<File[]>([]);
  let over = $state(false);
  let text = $state('');
  let order = $state<JobOrder>('newest');
  let away = $state(false);
  const shown = $derived(jobsShown(jobs, { text, order, away }));
  const awayCount = $derived(jobs.filter(({ put_away }) => put_away).length);

  async function create(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    try {
      const { id } = await call<{ id: string }>('/api/jobs', {
        method: 'POST',
        body: { ...$state.snapshot(input), due: input.due || null }
      });
      leaveWaiting(id, dropped);
      await goto(`/jobs/${id}`);
    } catch (reason) {
      fault = faultOf(reason);
    }
  }
  async function drop(event: DragEvent): Promise<void> {
    event.preventDefault();
    over = false;
    const found = event.dataTransfer ? await droppedFiles(event.dataTransfer) : [];
    if (found.length === 0) return;
    const [first] = found;
    if (found.length === 1 && /\.zip$/i.test(first.name)) return takeIn(first);
    dropped = found;
    input = { ...EMPTY, name: nameFor(found) };
    adding = true;
  }
  let archives = $state<HTMLInputElement>();
  /** What is being taken in, and how far that has come. */
  let taking = $state<{ name: string; sent: number; bytes: number } | null>(null);
  let refused = $state('');
  async function takeIn(file: File | undefined): Promise<void> {
    if (!file) return;
    refused = '';
    taking = { name: file.name, sent: 0, bytes: file.size };
    try {
      const { id } = await sendFile<{ id: string }>('/api/jobs/take-in', file, (sent) => {
        if (taking) taking.sent = sent;
      });
      await goto(`/jobs/${id}`);
    } catch (reason) {
      refused = (reason as Error).message;
    }
    taking = null;
    if (archives) archives.value = '';
  }
  const count = (n: number): string => `${n} ${n === 1 ? 'frame' : 'frames'}`;
</script>

<svelte:head><title>Jobs · Line True</title></svelte:head>
<TopBand>
  {#snippet actions()}
    <Button color="light" href="/lenses">Catalogue</Button>
    <ViewMenu />
    <Button
      color="light"
      {...hint('A job archive of this Line True or another one, as a job')}
      onclick={() => archives?.click()}>Take in…</Button
    >
    <Button onclick={() => ([dropped, adding] = [[], true])}>New job</Button>
  {/snippet}
</TopBand>
<main
  class={[
    'min-h-[calc(100vh-44px)] px-7 py-5.5',
    over && 'outline-3 -outline-offset-8 outline-accent outline-dashed'
  ]}
  ondragover={(event) => {
    event.preventDefault();
    over = true;
  }}
  ondragleave={() => (over = false)}
  ondrop={drop}
>
  <div class="flex items-center gap-2.5">
    <h1 class="mr-auto">Jobs</h1>
    {#if jobs.length > 0}
      <Input
        class="w-60!"
        type="search"
        aria-label="Search jobs"
        placeholder="Name, client or site"
        bind:value={text}
      />
      <Select placeholder="" aria-label="Order of jobs" bind:value={order}>
        {#each JOB_ORDERS as name (name)}<option value={name}>{name}</option>{/each}
      </Select>
      {#if awayCount > 0}<Checkbox bind:checked={away}>{awayCount} put away</Checkbox>{/if}
    {/if}
  </div>
  {#if taking}
    <p class="flex items-center gap-3" role="status" data-testid="taking-in">
      {taking.name}
      {#if taking.sent < taking.bytes}
        <span class="w-60"><Progressbar size="h-1.25" progress={(100 * taking.sent) / taking.bytes} /></span>
      {:else}is checked and taken in…{/if}
    </p>
  {/if}
  {#if refused}<p class="text-accent" role="alert">{refused}</p>{/if}
  {#if lost}<p class="text-accent" role="alert">{LOST}</p>{/if}
  {#if demo}
    <p class="quiet" role="status" data-testid="demo">
      The demo photographs are being taken: {demo.done} of {demo.total}. All else can be done meanwhile.
    </p>
  {/if}
  {#if jobs.length === 0}
    <div class="mx-auto mt-24 max-w-120 border border-dashed border-faint bg-panel p-8 text-center">
      <h2 class="mb-2">Begin with your photographs</h2>
      <p class="mb-4">
        Drop raw files, JPEG, PNG or TIFF anywhere on this page, or a whole folder: they become a job, and
        each frame is corrected by its lens profile where one is known.
      </p>
      <Button onclick={() => (adding = true)}>New job</Button>
    </div>
  {:else if shown.length === 0}
    <p class="quiet mt-6">No job {away ? 'that was put away' : ''} matches “{text}”.</p>
  {/if}
  <ul class="grid grid-cols-[repeat(auto-fill,minmax(290px,1fr))] gap-5 mt-4">
    {#each shown as job (job.id)}
      <li>
        <a class="card block border border-line bg-panel hover:border-ink" href={`/jobs/${job.id}`}>
          {#if job.cover}
            <img src={`/api/frames/${job.cover.id}/thumbnail?v=${job.cover.version}`} alt="" />
          {:else}
            <span class="blank quiet">{job.waiting > 0 ? 'preparing…' : 'no frames yet'}</span>
          {/if}
          <span class="words flex flex-col py-2.5 px-3 leading-[1.5]">
            <strong>{job.name}</strong>
            <span>{job.client}</span>
            <span class="quiet">{job.site}</span>
            <span class="quiet foot flex justify-between mt-1.5">
              <span>{count(job.frames)}{job.failed ? `, ${job.failed} not readable` : ''}</span>
              {#if job.due}<span>due {job.due}</span>{/if}
            </span>
          </span>
        </a>
      </li>
    {/each}
  </ul>
</main>
<Fileupload
  class="hidden"
  accept=".zip"
  bind:elementRef={archives}
  onchange={() => void takeIn(archives?.files?.[0])}
  data-testid="archive"
/>
<Modal title="New job" bind:open={adding} size="sm">
  <form class="flex flex-col gap-3" onsubmit={create}>
    <JobFields bind:job={input} {fault} />
    {#if dropped.length > 0}<p class="quiet">{count(dropped.length)} to be added.</p>{/if}
    {#if fault && !fault.field}<p class="text-accent" role="alert">{fault.message}</p>{/if}
    <Button type="submit">Make the job</Button>
  </form>
</Modal>

<style>
  .card img,
  .blank {
    display: grid;
    place-items: center;
    width: 100%;
    aspect-ratio: 3 / 2;
    object-fit: cover;
    background: var(--soft);
  }
  .words strong {
    font-size: 15px;
  }
</style>
