<!-- Makes the selected frames come out as one of the job does: exposure and white balance, by what they show in common. -->
<script lang="ts">
  import { Button, Modal, Radio } from 'flowbite-svelte';
  import { call } from '$lib/call.ts';
  import { undoChanges } from '$lib/take-back.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import type { MatchedTo } from '$server/set/match-frame.ts';
  import { type FramesDone, doneText, framesInTurn } from './frames-in-turn.ts';
  import InTurn from './InTurn.svelte';

  interface Named {
    id: string;
    name: string;
    room: string;
    version: number;
  }
  interface Props {
    open: boolean;
    job: string;
    /** Those that are matched. */
    frames: readonly Named[];
    /** Those that they can be matched to. */
    all: readonly Named[];
  }
  let { open = $bindable(), job, frames, all }: Props = $props();
  let like = $state('');
  let working = $state.raw<{ done: number; name: string } | null>(null);
  let stopped = $state(false);
  let made = $state.raw<FramesDone | null>(null);
  const others = $derived(frames.filter(({ id }) => id !== like));
  $effect(() => {
    if (open) made = null;
  });

  async function match(): Promise<void> {
    stopped = false;
    const found = await framesInTurn(
      others,
      (id) => call<MatchedTo>(`/api/frames/${id}/match`, { method: 'POST', body: { like } }),
      (done, name) => {
        working = { done, name };
        return !stopped;
      }
    );
    working = null;
    made = found;
    toasts.tell(doneText({ ...found, done: found.done - found.looks.length }, 'matched'), {
      undo: undoChanges(job, found.changed)
    });
    if (found.looks.length === 0) open = false;
  }
</script>

<Modal title="Match" bind:open size="sm" dismissable={working === null} outsideclose={false}>
  {#if made}
    <InTurn {working} all={others.length} {made} verb="matched" close={() => (open = false)} />
  {:else}
    <p class="quiet">
      Exposure and white balance, so that what two frames show in common comes out alike. To be like:
    </p>
    <ul class="max-h-75 overflow-y-auto border border-line" aria-label="Frame to be like">
      {#each all as { id, name, room, version } (id)}
        <li class="px-2 py-1">
          <Radio name="match-like" value={id} bind:group={like} disabled={working !== null}>
            <img class="mr-2 h-9 w-13 object-cover" src={`/api/frames/${id}/thumbnail?v=${version}`} alt="" />
            {name}<span class="quiet ml-2">{room}</span>
          </Radio>
        </li>
      {/each}
    </ul>
    <InTurn {working} all={others.length} {made} verb="matched" close={() => (open = false)} />
    <div class="foot flex items-center gap-2.5">
      {#if working}
        <Button color="light" disabled={stopped} onclick={() => (stopped = true)}>Stop after this one</Button>
      {:else}
        <Button disabled={like === '' || others.length === 0} onclick={() => void match()}
          >Match {others.length}</Button
        >
        <span class="quiet">
          {like === '' ? 'Choose the frame that the others are to be like.' : ''}
        </span>
      {/if}
    </div>
  {/if}
</Modal>
