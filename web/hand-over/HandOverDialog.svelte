<!-- Hands frames over to another program, and shows those that it has: a file that changes comes back by itself. -->
<script lang="ts">
  import { Button, Input, Modal, Select } from 'flowbite-svelte';
  import { RGB_SPACES, SPACES } from '$core/colour/rgb-spaces.ts';
  import { call } from '$lib/call.ts';
  import { LOST, hearEvents } from '$lib/hear-events.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import type { HandOver, HandOverSettings } from '$server/hand-over/hand-overs.ts';

  interface Props {
    open: boolean;
    job: string;
    /** Those that are handed over. */
    frames: readonly { id: string; name: string }[];
    /** What has to be done before, such as saving. */
    before?: () => Promise<unknown>;
  }
  let { open = $bindable(), job, frames, before = async () => {} }: Props = $props();
  let settings = $state<HandOverSettings>({ space: 'rec2020', depth: 16, sizeKind: 'full', width: 4096 });
  let folder = $state('');
  let rows = $state.raw<HandOver[]>([]);
  let said = $state('');
  const count = (n: number): string => `${n} ${n === 1 ? 'frame' : 'frames'}`;

  const act = async (work: () => Promise<unknown>): Promise<void> => {
    said = '';
    try {
      await work();
      ({ folder, rows } = await call<{ folder: string; rows: HandOver[] }>(`/api/jobs/${job}/hand-overs`));
    } catch (reason) {
      said = (reason as Error).message;
    }
  };
  $effect(() => {
    if (!open) return;
    return hearEvents(
      `/api/jobs/${job}/events`,
      () => void act(async () => {}),
      (isLost) => (said = isLost ? LOST : '')
    );
  });
  const hand = (): Promise<void> =>
    act(async () => {
      await before();
      await call(`/api/jobs/${job}/hand-overs`, {
        method: 'POST',
        body: { ids: frames.map(({ id }) => id), settings: $state.snapshot(settings) }
      });
      toasts.tell(`${count(frames.length)} handed over: what another program saves comes back by itself.`);
    });
  const forget = ({ id }: HandOver): Promise<void> =>
    act(() => call(`/api/hand-overs/${id}`, { method: 'DELETE' }));
  const stateOf = ({ state, error, returned_id }: HandOver): string => {
    if (error) return error;
    if (state === 'queued') return 'being written';
    return returned_id ? 'came back' : 'not changed yet';
  };
</script>

<Modal title="Hand over" bind:open size="md">
  <p class="quiet">
    Written as they stand, as TIFF, for another program to change. Save under the same name there: the picture
    comes back by itself, as a frame beside its own, without lens or raw settings a second time.
  </p>
  <div class="flex items-end gap-3">
    <label class="flex flex-col gap-1"
      >Colours
      <Select placeholder="" bind:value={settings.space}>
        {#each SPACES as name (name)}<option value={name}>{RGB_SPACES[name].name}</option>{/each}
      </Select>
    </label>
    <label class="flex flex-col gap-1"
      >Bits
      <Select placeholder="" bind:value={settings.depth}>
        <option value={16}>16</option>
        <option value={8}>8</option>
      </Select>
    </label>
    <label class="flex flex-col gap-1"
      >Size
      <Select placeholder="" bind:value={settings.sizeKind}>
        <option value="full">full</option>
        <option value="long">long edge</option>
      </Select>
    </label>
    {#if settings.sizeKind === 'long'}
      <label class="flex flex-col gap-1"
        >px<Input class="w-24" type="number" min={16} max={30000} bind:value={settings.width} /></label
      >
    {/if}
    <Button disabled={frames.length === 0} onclick={() => void hand()}>Hand over {frames.length}</Button>
  </div>
  {#if said}<p class="text-accent" role="alert">{said}</p>{/if}
  {#if rows.length > 0}
    <ul
      class="max-h-60 overflow-y-auto border-t border-t-line"
      aria-label="Frames of this job that were handed over"
    >
      {#each rows as row (row.id)}
        <li class="flex items-center gap-3 border-b border-b-soft py-1" data-state={row.state}>
          <span class="min-w-0 flex-1 truncate" title={`${folder}/${row.file ?? ''}`}
            >{row.file?.split('/').pop() ?? row.frame}</span
          >
          <span class={['max-w-75', row.error ? 'text-accent' : 'quiet']}>{stateOf(row)}</span>
          <Button color="light" onclick={() => void forget(row)}>Wait no longer</Button>
        </li>
      {/each}
    </ul>
    <p class="quiet select-text">In {folder}/{rows[0].file?.split('/')[0] ?? ''}</p>
  {/if}
</Modal>
