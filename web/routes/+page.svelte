<script lang="ts">
  import { onMount } from 'svelte';
  import { goto } from '$app/navigation';
  import { Button, Input, Label, Modal } from 'flowbite-svelte';
  import TopBand from '../jobs/TopBand.svelte';
  import { call } from '$lib/call.ts';
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
  let error = $state('');
  let input = $state({ name: '', client: '', site: '', due: '' });

  async function create(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    try {
      const { id } = await call<{ id: string }>('/api/jobs', {
        method: 'POST',
        body: { ...$state.snapshot(input), due: input.due || null }
      });
      await goto(`/jobs/${id}`);
    } catch (reason) {
      error = (reason as Error).message;
    }
  }
  const count = (n: number): string => `${n} ${n === 1 ? 'frame' : 'frames'}`;
</script>

<svelte:head><title>Jobs · Line True</title></svelte:head>
<TopBand>
  {#snippet actions()}
    <Button color="light" href="/lenses">Catalogue</Button>
    <Button onclick={() => (adding = true)}>New job</Button>
  {/snippet}
</TopBand>
<main class="py-5.5 px-7">
  <h1>Jobs</h1>
  {#if lost}<p class="bad" role="alert">{LOST}</p>{/if}
  {#if demo}
    <p class="quiet" role="status" data-testid="demo">
      The demo photographs are being taken: {demo.done} of {demo.total}. All else can be done meanwhile.
    </p>
  {/if}
  {#if jobs.length === 0}
    <p class="quiet">There are no jobs yet. Make one, then add the frames you have taken for it.</p>
  {/if}
  <ul class="grid grid-cols-[repeat(auto-fill,minmax(290px,1fr))] gap-5 mt-4">
    {#each jobs as job (job.id)}
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
<Modal title="New job" bind:open={adding} size="sm">
  <form class="flex flex-col gap-3" onsubmit={create}>
    <Label>Name<Input size="sm" required maxlength={200} bind:value={input.name} /></Label>
    <Label>Client<Input size="sm" maxlength={200} bind:value={input.client} /></Label>
    <Label>Site<Input size="sm" maxlength={200} bind:value={input.site} /></Label>
    <Label>Due<Input size="sm" type="date" bind:value={input.due} /></Label>
    {#if error}<p role="alert">{error}</p>{/if}
    <Button type="submit" size="sm" color="primary">Make the job</Button>
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
