<!-- Moves or copies the selected frames to another job. -->
<script lang="ts">
  import { Button, Modal, Select } from 'flowbite-svelte';
  import { call } from '$lib/call.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import type { JobSummary } from '$server/jobs/jobs.ts';
  import type { SentFrames } from '$server/jobs/send-frames.ts';

  interface Props {
    open: boolean;
    job: string;
    frames: readonly string[];
  }
  let { open = $bindable(), job, frames }: Props = $props();
  let jobs = $state.raw<JobSummary[]>([]);
  let to = $state('');
  let said = $state('');
  const count = (n: number): string => `${n} ${n === 1 ? 'frame' : 'frames'}`;
  $effect(() => {
    if (!open) return;
    said = '';
    call<JobSummary[]>('/api/jobs').then(
      (found) => (jobs = found.filter(({ id, put_away }) => id !== job && !put_away)),
      (reason: Error) => (said = reason.message)
    );
  });
  const post = (from: string, body: { ids: readonly string[]; to: string; copies: boolean }) =>
    call<SentFrames>(`/api/jobs/${from}/frames/send`, { method: 'POST', body });
  async function send(copies: boolean): Promise<void> {
    try {
      const [target, name] = [to, jobs.find(({ id }) => id === to)?.name ?? ''];
      const { sent, known } = await post(job, { ids: frames, to: target, copies });
      open = false;
      const stayed = known.length > 0 ? ` ${known.join(', ')}: there already.` : '';
      toasts.tell(`${count(sent.length)} ${copies ? 'copied' : 'moved'} to ${name}.${stayed}`, {
        undo:
          copies || sent.length === 0
            ? undefined
            : async () => {
                const { sent: back } = await post(target, { ids: sent, to: job, copies: false });
                return `${count(back.length)} moved back.`;
              }
      });
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
</script>

<Modal title="Move or copy" bind:open size="xs">
  {#if jobs.length === 0}
    <p>There is no other job. Make one on Jobs first.</p>
  {:else}
    <label class="flex flex-col gap-1">
      Job that {count(frames.length)}
      {frames.length === 1 ? 'goes' : 'go'} to, with recipes and revisions
      <Select placeholder="" aria-label="Job to send to" bind:value={to}>
        <option value="" disabled>Choose…</option>
        {#each jobs as { id, name } (id)}<option value={id}>{name}</option>{/each}
      </Select>
    </label>
  {/if}
  <div class="foot flex items-center gap-2.5">
    <Button disabled={to === ''} onclick={() => void send(false)}>Move</Button>
    <Button color="light" disabled={to === ''} onclick={() => void send(true)}>Copy</Button>
    <span role="status">{said}</span>
  </div>
</Modal>
