<!-- Changes what is known of a job, puts it away, or removes it after saying what is lost. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { Button, Modal } from 'flowbite-svelte';
  import { goto, invalidateAll } from '$app/navigation';
  import { type FormFault, call, faultOf } from '$lib/call.ts';
  import type { Job } from '$server/jobs/jobs.ts';
  import type { Loss } from '$server/jobs/remove-job.ts';
  import { hint } from '../lib/hints/hint.ts';
  import JobFields from './JobFields.svelte';
  import { lossText } from './loss-text.ts';

  let { open = $bindable(), job }: { open: boolean; job: Job } = $props();
  const wordsOf = ({
    name,
    client,
    site,
    due
  }: Job): { name: string; client: string; site: string; due: string } => ({
    name,
    client,
    site,
    due: due ?? ''
  });
  let words = $state(untrack(() => wordsOf(job)));
  let fault = $state.raw<FormFault | null>(null);
  let loss = $state.raw<Loss | null>(null);
  $effect(() => {
    if (!open) return;
    [words, fault, loss] = [wordsOf(job), null, null];
  });

  async function act(work: () => Promise<unknown>): Promise<boolean> {
    try {
      await work();
      return true;
    } catch (reason) {
      fault = faultOf(reason);
      return false;
    }
  }
  async function change(body: object): Promise<void> {
    if (!(await act(() => call(`/api/jobs/${job.id}`, { method: 'PATCH', body })))) return;
    open = false;
    await invalidateAll();
  }
  async function remove(): Promise<void> {
    if (loss === null) await act(async () => (loss = await call<Loss>(`/api/jobs/${job.id}/loss`)));
    else if (await act(() => call(`/api/jobs/${job.id}`, { method: 'DELETE' }))) await goto('/');
  }
</script>

<Modal title="Change the job" bind:open size="sm">
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void change({ ...$state.snapshot(words), due: words.due || null });
    }}
  >
    <JobFields bind:job={words} {fault} />
    {#if fault && !fault.field}<p role="alert" class="text-accent">{fault.message}</p>{/if}
    {#if loss}<p role="alert" data-testid="loss">{lossText(loss)}</p>{/if}
    <div class="flex gap-2">
      <Button type="submit">Save</Button>
      <Button color="light" onclick={() => change({ put_away: !job.put_away })}
        >{job.put_away ? 'Take out again' : 'Put away'}</Button
      >
      <Button
        color="light"
        href={`/api/jobs/${job.id}/archive`}
        download
        {...hint(
          'Originals, recipes, revisions and lens profiles as one ZIP, which another Line True takes in'
        )}>Archive</Button
      >
      <Button
        color="light"
        href={`/api/jobs/${job.id}/recipes`}
        download
        {...hint(
          'Recipes of all frames as JSON, to lie beside their originals: dropped with them, they are read again'
        )}>Recipes</Button
      >
      <span class="flex-1"></span>
      <Button color={loss ? 'primary' : 'light'} onclick={remove}
        >{loss ? 'Remove for good' : 'Remove…'}</Button
      >
    </div>
  </form>
</Modal>
