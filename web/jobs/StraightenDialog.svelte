<!-- Makes a lens profile from the edges of chosen frames, and gives it to them. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { Button, Input, Modal } from 'flowbite-svelte';
  import { invalidateAll } from '$app/navigation';
  import { call } from '$lib/call.ts';
  import type { FrameRow } from '$server/frames/frame-row.ts';
  import type { StraightenResult } from '$server/lenses/straighten-lens.ts';

  let { open = $bindable(), frames }: { open: boolean; frames: FrameRow[] } = $props();
  let maker = $state('');
  let lens = $state('');
  let focal = $state('');
  let busy = $state(false);
  let error = $state('');
  let result = $state.raw<StraightenResult | null>(null);
  const untold = $derived(frames.filter(({ facts }) => !facts?.focalLength));

  $effect(() => {
    if (!open) return;
    untrack(() => {
      [result, error, focal] = [null, '', ''];
      const facts = frames.find((frame) => frame.facts?.lens)?.facts ?? frames[0]?.facts;
      maker = facts?.lensMaker ?? '';
      lens = facts?.lens ?? '';
    });
  });

  async function straighten(save: boolean): Promise<void> {
    [error, result, busy] = ['', null, true];
    try {
      result = await call<StraightenResult>('/api/lenses/straightened', {
        method: 'POST',
        body: {
          frames: frames.map(({ id }) => id),
          maker,
          lens,
          focalLength: untold.length > 0 ? focalNumber : null,
          save
        }
      });
      if (save) await invalidateAll();
    } catch (reason) {
      error = (reason as Error).message;
    }
    busy = false;
  }
  const focalNumber = $derived(Number(focal.replace(',', '.')));
  const missing = $derived(
    frames.length < 2
      ? 'Choose two frames or more.'
      : lens.trim() === ''
        ? 'Give the lens a name.'
        : untold.length > 0 && !(focalNumber > 0)
          ? 'Give the focal length: the files do not say it.'
          : ''
  );
  const saidOf = $derived(new Map(result?.frames.map((frame) => [frame.id, frame])));
</script>

<Modal title="Straighten a lens" bind:open size="md">
  <p>
    Edges that are straight in truth tell how a lens bends them. Frames of one lens are solved together; a
    zoom has a record for each focal length.
  </p>
  <ul class="max-h-65 overflow-y-auto border border-line" aria-label="Frames">
    {#each frames as { id, name, facts } (id)}
      {@const said = saidOf.get(id)}
      <li class="grid grid-cols-[150px_70px_1fr] items-center gap-2.5 px-2 py-0.75">
        <span class="overflow-hidden text-ellipsis whitespace-nowrap">{name}</span>
        <span class="quiet">{facts?.focalLength ? `${facts.focalLength} mm` : 'not told'}</span>
        <span class={said && !said.ok ? 'text-accent' : 'quiet'}>{said?.said ?? ''}</span>
      </li>
    {/each}
  </ul>
  <div class="flex items-end gap-3">
    <label class="flex flex-col">Maker <Input bind:value={maker} maxlength={100} /></label>
    <label class="flex flex-1 flex-col"
      >Lens <Input bind:value={lens} maxlength={200} placeholder="Name on the barrel" /></label
    >
    {#if untold.length > 0}
      <label class="flex flex-col">Focal length, mm <Input bind:value={focal} inputmode="decimal" /></label>
    {/if}
  </div>
  {#if result}
    <ul class="border border-line px-2.5 py-1.5" role="status">
      {#each result.findings as finding (finding)}<li>{finding}</li>{/each}
      {#if result.saved}<li>
          <strong
            >Stored in the <a class="underline" href="/lenses">Catalogue</a> as {result.profile.lens}; {result.given}
            {result.given === 1 ? 'frame has' : 'frames have'} it now.</strong
          >
        </li>{/if}
    </ul>
  {/if}
  {#if error}<p class="text-accent" role="alert">{error}</p>{/if}
  <div class="flex items-center gap-2.5">
    <Button color="light" disabled={missing !== '' || busy} onclick={() => straighten(false)}>Solve</Button>
    <Button disabled={missing !== '' || busy} onclick={() => straighten(true)}>Solve and give</Button>
    <span role="status">{busy ? 'Solving…' : missing}</span>
  </div>
</Modal>
