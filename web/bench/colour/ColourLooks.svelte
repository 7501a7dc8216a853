<!-- Looks: tables of colours laid over the picture last, our own and imported ones, with an amount; the recipe's own written out. -->
<script lang="ts">
  import { Button, Fileupload, Select } from 'flowbite-svelte';
  import { onMount } from 'svelte';
  import { LOOK_SPACES, type LookSpace } from '$core/steps/colour/looks/look.ts';
  import { writeCube } from '$core/steps/colour/looks/cube-file.ts';
  import type { LookCard } from '$server/looks/looks.ts';
  import { call } from '$lib/call.ts';
  import { saveFile } from '$lib/save-file.ts';
  import type { Recipe } from '$core/recipe/recipe.ts';
  import StatePictures from '../states/StatePictures.svelte';
  import type { FrameState } from '../states/frame-state.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
  }
  let { bench, sheet, off }: Props = $props();
  const colour = $derived(bench.recipe.colour);
  let looks = $state.raw<LookCard[]>([]);
  let said = $state('');
  let space = $state<LookSpace>('srgb');
  let chooser = $state<HTMLInputElement>();
  const SPACES: Record<LookSpace, string> = { srgb: 'for sRGB', linear: 'for linear light' };
  const current = $derived(looks.find(({ id }) => id === colour.look) ?? null);
  const NONE = 'none';
  const wearing =
    (look: string | null) =>
    (recipe: Recipe): Recipe => ({ ...recipe, colour: { ...recipe.colour, look } });
  const states = $derived<FrameState[]>([
    { id: NONE, label: 'none', apply: wearing(null) },
    ...looks.map(({ id, name, kind, size, space: of }) => ({
      id,
      label: name,
      title: `${name}: ${kind}, ${size} nodes, ${SPACES[of]}`,
      apply: wearing(id)
    }))
  ]);
  const list = async (): Promise<void> => {
    looks = await call<LookCard[]>('/api/looks');
  };
  onMount(() => void list());

  /** Does what may fail in words. */
  async function tried(work: () => Promise<string>): Promise<void> {
    try {
      said = await work();
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
  const take = (file: File): Promise<void> =>
    tried(async () => {
      const path = `/api/looks?name=${encodeURIComponent(file.name)}&space=${space}`;
      const taken = await call<LookCard>(path, { method: 'POST', body: file });
      await list();
      bench.change('colour', { look: taken.id, enabled: true });
      return `“${taken.name}” is taken: ${taken.size} nodes, ${SPACES[taken.space]}.`;
    });
  const remove = (look: LookCard): Promise<void> =>
    tried(async () => {
      bench.change('colour', { look: null });
      await bench.saver.flush();
      await call(`/api/looks/${look.id}`, { method: 'DELETE' });
      await list();
      return `“${look.name}” is removed.`;
    });
  /** Another window may have removed it since the list was read. */
  const choose = (id: string): Promise<void> =>
    tried(async () => {
      const name = looks.find((look) => look.id === id)?.name;
      if (id !== NONE) await list();
      if (id !== NONE && !looks.some((look) => look.id === id))
        return `“${name}” was removed meanwhile. Take its file in again, or choose another.`;
      bench.change('colour', { look: id === NONE ? null : id, enabled: true });
      return '';
    });
  const write = (): Promise<void> =>
    tried(async () => {
      const name = bench.frame.name.replace(/\.[^.]+$/, '');
      const stages = $state.snapshot(bench.inputs.stages) as typeof bench.inputs.stages;
      const look = await sheet.preview?.ask<'bake'>({
        kind: 'bake',
        stages,
        rendering: bench.facts.rendering,
        name
      });
      if (!look) return 'The picture is not open yet.';
      saveFile(`${name}.cube`, writeCube(look), 'text/plain');
      return 'Written: tone and colour as a table, without what looks about it.';
    });
</script>

<section class="column flex flex-[1_1_520px] flex-col beside:min-h-56" aria-label="Looks" data-testid="looks">
  <StatePictures
    {bench}
    {sheet}
    {states}
    chosen={colour.look ?? NONE}
    choose={(id) => void choose(id)}
    idle={off}
  />
  {#each [['lookAmount', 'Amount of the look'], ...(colour.look === null ? [] : ([['lookContrast', 'Contrast of the look'], ['lookColour', 'Colour of the look']] as const))] as const as [name, spoken] (name)}
    <SettingControl
      {bench}
      step="colour"
      {name}
      {spoken}
      idle={off ?? (colour.look === null ? 'No look is laid on: choose one first.' : null)}
    />
  {/each}
</section>
<section class="column flex-[0_0_300px]! beside:flex-none!" aria-label="Looks in and out">
  <div class="flex items-center justify-between gap-1.25 pb-1.5">
    <Button
      {...hint('A look made elsewhere, for all frames of the studio')}
      color="light"
      disabled={off !== null}
      onclick={() => chooser?.click()}>Take a .cube file…</Button
    >
    <Fileupload
      class="hidden"
      accept=".cube"
      aria-label="Take a .cube file"
      bind:elementRef={chooser}
      onchange={() => {
        const [file] = chooser?.files ?? [];
        if (file) void take(file);
        if (chooser) chooser.value = '';
      }}
    />
    <Select
      {...hint('The colours that its table was made for')}
      placeholder=""
      class="w-36!"
      aria-label="What its colours are"
      bind:value={space}
    >
      {#each LOOK_SPACES as name (name)}<option value={name}>{SPACES[name]}</option>{/each}
    </Select>
  </div>
  <div class="flex gap-1.25">
    <Button
      color="light"
      {...hint('Tone and colour of this recipe as a .cube file')}
      disabled={off !== null}
      onclick={() => void write()}>Write out</Button
    >
    {#if current && !current.shipped}
      <Button color="light" onclick={() => void remove(current)}>Remove “{current.name}”</Button>
    {/if}
  </div>
  <p class="quiet pt-1.5 text-xs" role="status">
    {said || 'A .cube file, 1D or 3D, of up to 65 nodes a side. Most are for sRGB.'}
  </p>
</section>
