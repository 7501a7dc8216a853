<!-- Makes a lens profile from chosen frames of a chart and of a flat surface. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { Button, Input, Modal, Select } from 'flowbite-svelte';
  import { call } from '$lib/call.ts';
  import type { FrameRow } from '$server/frames/frame-row.ts';
  import type { FrameMeasurement, MeasureResult } from '$server/lenses/measure-lens.ts';

  let { open = $bindable(), frames }: { open: boolean; frames: FrameRow[] } = $props();
  type Kind = 'chart' | 'flat' | 'leave';
  let kinds = $state<Record<string, Kind>>({});
  let looked = $state<Record<string, FrameMeasurement>>({});
  let maker = $state('');
  let lens = $state('');
  let focal = $state('');
  let busy = $state('');
  let error = $state('');
  let result = $state.raw<MeasureResult | null>(null);

  $effect(() => {
    if (!open) return;
    untrack(() => {
      kinds = Object.fromEntries(frames.map((f) => [f.id, /flat/i.test(f.name) ? 'flat' : 'chart']));
      looked = {};
      result = null;
      error = '';
      const facts = frames[0]?.facts;
      maker = facts?.lensMaker ?? '';
      lens = facts?.lens ?? '';
      focal = facts?.focalLength ? String(facts.focalLength) : '';
    });
  });

  const of = (kind: Kind): string[] => frames.filter((f) => kinds[f.id] === kind).map((f) => f.id);

  async function measure(save: boolean): Promise<void> {
    error = '';
    result = null;
    try {
      const wanted = frames.filter((frame) => kinds[frame.id] !== 'leave');
      for (const [i, frame] of wanted.entries()) {
        busy = `Looking at ${frame.name}, ${i + 1} of ${wanted.length}…`;
        looked[frame.id] ??= await call<FrameMeasurement>(
          `/api/frames/${frame.id}/measure/${kinds[frame.id]}`,
          { method: 'POST' }
        );
      }
      busy = 'Solving…';
      result = await call<MeasureResult>('/api/lenses/measured', {
        method: 'POST',
        body: {
          charts: of('chart'),
          flats: of('flat'),
          maker,
          lens,
          focalLength: Number(focal.replace(',', '.')),
          save
        }
      });
    } catch (reason) {
      error = (reason as Error).message;
    }
    busy = '';
  }
  const named = $derived(lens.trim() !== '' && Number(focal.replace(',', '.')) > 0);
</script>

<Modal title="Measure a lens" bind:open size="md">
  <p>
    A chessboard or a grid of lines gives distortion and lateral colour, a plain, evenly lit surface falloff
    and colour shading.
  </p>
  <ul class="list max-h-65 overflow-y-auto border border-line">
    {#each frames as frame (frame.id)}
      <li>
        <span>{frame.name}</span>
        <Select
          placeholder=""
          aria-label={`What ${frame.name} shows`}
          bind:value={kinds[frame.id]}
          onchange={() => delete looked[frame.id]}
        >
          <option value="chart">chart</option>
          <option value="flat">flat surface</option>
          <option value="leave">leave out</option>
        </Select>
        <span class:bad={looked[frame.id] && !looked[frame.id].ok} class="quiet"
          >{looked[frame.id]?.said ?? ''}</span
        >
      </li>
    {/each}
  </ul>
  <div class="names flex gap-3 items-end">
    <label>Maker <Input bind:value={maker} maxlength={100} /></label>
    <label class="flex-1"
      >Lens <Input bind:value={lens} maxlength={200} placeholder="Name on the barrel" /></label
    >
    <label>Focal length, mm <Input bind:value={focal} inputmode="decimal" /></label>
  </div>
  {#if result}
    <ul class="found border border-line py-1.5 px-2.5" role="status">
      {#each result.findings as finding (finding)}<li>{finding}</li>{/each}
      {#if result.saved}<li>
          <strong
            >Stored in the <a class="underline" href="/lenses">Catalogue</a> as {result.profile.lens}.</strong
          >
        </li>{/if}
    </ul>
  {/if}
  {#if error}<p class="bad" role="alert">{error}</p>{/if}
  <div class="foot flex gap-2.5 items-center">
    <Button color="light" disabled={!named || busy !== ''} onclick={() => measure(false)}>Measure</Button>
    <Button disabled={!named || busy !== ''} onclick={() => measure(true)}>Measure and store</Button>
    <span role="status">{busy || (named ? '' : 'Give the lens a name and its focal length.')}</span>
  </div>
</Modal>

<style>
  .list li {
    display: grid;
    grid-template-columns: 150px 120px 1fr;
    gap: 10px;
    align-items: center;
    padding: 3px 8px;
  }
  .names label {
    display: flex;
    flex-direction: column;
  }
  .bad {
    color: var(--accent);
  }
</style>
