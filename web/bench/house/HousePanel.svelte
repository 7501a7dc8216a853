<!-- House settings on the bench: by folder, as pictures of this frame; pointed at they are seen, pressed they are laid over it. -->
<script lang="ts">
  import { Button, Fileupload, Input, Select } from 'flowbite-svelte';
  import { completeRecipe } from '$core/recipe/recipe.ts';
  import { SvelteSet } from 'svelte/reactivity';
  import type { CarriedPart } from '$core/recipe/carry-over.ts';
  import {
    holdsText,
    houseAmount,
    houseStepsOf,
    offeredSteps,
    withHouseSettings
  } from '$core/recipe/house-settings.ts';
  import { call } from '$lib/call.ts';
  import PartChoices from '../parts/PartChoices.svelte';
  import { chosenParts, toggleStep } from '../parts/chosen-parts.ts';
  import type { HouseRow } from '$server/recipes/house-settings.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import BandPopover from '../../lib/BandPopover.svelte';
  import NumberControl from '../controls/NumberControl.svelte';
  import StatePictures from '../states/StatePictures.svelte';
  import type { FrameState } from '../states/frame-state.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    open: boolean;
    /** Opens what carries steps over to other frames. */
    carry: () => void;
  }
  let { bench, sheet, open = $bindable(), carry }: Props = $props();
  const PATH = '/api/house-settings';
  let rows = $state.raw<HouseRow[]>([]);
  let said = $state('');
  let folder = $state('');
  let amount = $state<number>(houseAmount.default);
  let chosen = $state('');
  let keeping = $state(false);
  let name = $state('');
  let into = $state('');
  const taken = new SvelteSet<CarriedPart>();
  let file = $state<HTMLInputElement>();

  let asked = 0;
  /** The list as it stands; what was asked for before comes later at times, and is old. */
  async function list(): Promise<void> {
    const mine = ++asked;
    const listed = await call<HouseRow[]>(PATH);
    if (mine === asked) rows = listed;
  }
  /** Does what may fail in words; `told` says what came of it. */
  async function tried<T>(work: () => Promise<T>, told: (made: T) => string = () => ''): Promise<void> {
    try {
      said = told(await work());
      await list();
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
  $effect(() => {
    if (open) void tried(() => Promise.resolve());
    else keeping = false;
  });

  const folders = $derived([...new Set(rows.map((row) => row.folder))]);
  const shown = $derived(rows.filter((row) => folder === '' || row.folder === folder));
  const states = $derived(
    shown.map((set): FrameState => ({
      id: set.id,
      label: set.name,
      title: `${set.name}: ${holdsText(set)}`,
      apply: (recipe) => completeRecipe(withHouseSettings(recipe, set.steps, amount))
    }))
  );
  function take(id: string): void {
    chosen = id;
    const found = states.find((state) => state.id === id);
    if (found) bench.take(found.apply(bench.recipe));
  }
  const row = $derived(rows.find(({ id }) => id === chosen));

  function begin(): void {
    keeping = true;
    taken.clear();
    for (const step of offeredSteps(bench.recipe)) toggleStep(taken, step, true);
    into = folder;
    name = '';
  }
  const keep = (): Promise<void> =>
    tried(
      async () => {
        const body = { name, folder: into, steps: houseStepsOf(bench.recipe, chosenParts(taken)) };
        chosen = (await call<{ id: string }>(PATH, { method: 'POST', body })).id;
        keeping = false;
      },
      () => `Kept as ${name}.`
    );
  const change = (id: string, body: { name?: string; folder?: string }): Promise<void> =>
    tried(() => call(`${PATH}/${id}`, { method: 'PATCH', body }));
  const remove = (id: string): Promise<void> => tried(() => call(`${PATH}/${id}`, { method: 'DELETE' }));
  async function importFile(): Promise<void> {
    const [picked] = file?.files ?? [];
    if (!picked) return;
    const text = await picked.text();
    await tried(
      async () => {
        let body: unknown;
        try {
          body = JSON.parse(text);
        } catch {
          throw new Error(`${picked.name} is no JSON. Choose a file of house settings.`);
        }
        return call<{ added: number }>(`${PATH}/file`, { method: 'POST', body });
      },
      ({ added }) => `${added} taken in.`
    );
    if (file) file.value = '';
  }
</script>

<BandPopover
  text="House"
  told="House settings: sets of steps of your own, laid over this frame (Shift+H)"
  label="House settings"
  width="w-122"
  bind:open
>
  <div class="flex items-center gap-1.5">
    <h2 class="flex-1 text-sm">House settings</h2>
    <Select size="sm" placeholder="" class="w-34" aria-label="Folder" bind:value={folder}>
      <option value="">all folders</option>
      {#each folders.filter((each) => each !== '') as each (each)}<option value={each}>{each}</option>{/each}
    </Select>
    <Button color="light" {...hint('Steps of this frame as a set of their own')} onclick={begin}
      >Keep as…</Button
    >
  </div>
  {#if keeping}
    <form
      class="flex flex-col gap-1.5 border border-line p-2"
      aria-label="Keep house settings"
      onsubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <div class="flex gap-1.5">
        <Input class="h-7" aria-label="Name of the set" placeholder="name" maxlength={80} bind:value={name} />
        <Input
          class="h-7"
          aria-label="Folder of the set"
          placeholder="folder"
          maxlength={80}
          list="house-folders"
          bind:value={into}
        />
        <datalist id="house-folders"
          >{#each folders as each (each)}<option value={each}></option>{/each}</datalist
        >
      </div>
      <PartChoices parts={taken} label="What the set holds" />
      <div class="flex gap-1.5">
        <Button type="submit" disabled={name.trim() === '' || taken.size === 0}>Keep</Button>
        <Button color="light" onclick={() => (keeping = false)}>Not now</Button>
      </div>
    </form>
  {/if}
  {#if rows.length === 0}
    <p class="quiet">None yet. Keep steps of this frame as a set, to lay them over others.</p>
  {:else}
    <div class="flex min-h-30 flex-initial overflow-y-auto" data-testid="house-settings">
      <StatePictures {bench} {sheet} {states} {chosen} choose={take} idle={null} tall />
    </div>
    <NumberControl
      setting={houseAmount}
      description={houseAmount.description}
      value={amount}
      change={(next) => (amount = next)}
    />
  {/if}
  {#if row}
    <div class="flex flex-col gap-1 border-t border-t-line pt-2" aria-label="The chosen set" role="group">
      <div class="grid grid-cols-[1fr_1fr_20px] items-center gap-x-1.5">
        <Input
          class="h-6"
          aria-label="Name of the chosen set"
          maxlength={80}
          value={row.name}
          onchange={(event) => void change(row.id, { name: event.currentTarget.value })}
        />
        <Input
          class="h-6"
          aria-label="Folder of the chosen set"
          placeholder="folder"
          maxlength={80}
          value={row.folder}
          onchange={(event) => void change(row.id, { folder: event.currentTarget.value })}
        />
        <Button
          color="alternative"
          class="ghost h-6 w-6 border-0 p-0"
          aria-label={`Delete ${row.name}`}
          {...hint('Delete')}
          onclick={() => void remove(row.id)}>×</Button
        >
      </div>
      <p class="quiet text-xs" data-testid="house-holds">
        It holds {holdsText(row)}.
      </p>
    </div>
  {/if}
  <div class="flex items-center gap-1.5 border-t border-t-line pt-2">
    <Button
      color="light"
      {...hint('Steps of this frame for others of the job, without keeping them as a set')}
      onclick={carry}>Carry over…</Button
    >
    <Button color="light" onclick={() => file?.click()}>Import…</Button>
    <Button color="light" href={`${PATH}/file`} download disabled={rows.length === 0}>Export</Button>
    <span class="text-accent" role="status">{said}</span>
  </div>
  <Fileupload
    class="hidden"
    accept="application/json,.json"
    aria-label="File of house settings"
    bind:elementRef={file}
    onchange={() => void importFile()}
  />
</BandPopover>
