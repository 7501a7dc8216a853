<!-- Another sky in the chosen area: those that ship, those of one's own pictures, and how it lies and is matched. -->
<script lang="ts">
  import { Button, Fileupload } from 'flowbite-svelte';
  import { onMount } from 'svelte';
  import type { Recipe } from '$core/recipe/recipe.ts';
  import type { AreasSettings } from '$core/steps/areas/step.ts';
  import type { SkyCard } from '$server/skies/skies.ts';
  import { call } from '$lib/call.ts';
  import StatePictures from '../states/StatePictures.svelte';
  import type { FrameState } from '../states/frame-state.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import { hint } from '../../lib/hints/hint.ts';
  import { areasView } from './areas-view.svelte.ts';
  import { chosenArea, showSky, withSky } from './edit-areas.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
  }
  let { bench, sheet, off }: Props = $props();
  const mine = $derived(areasView(bench));
  const chosen = $derived(chosenArea(bench));
  const sky = $derived(chosen?.area.sky ?? null);
  let skies = $state.raw<SkyCard[]>([]);
  let said = $state('');
  let chooser = $state<HTMLInputElement>();
  const NONE = 'none';
  const current = $derived(skies.find(({ id }) => id === sky?.picture) ?? null);
  const showing =
    (area: string | null, picture: string | null) =>
    (recipe: Recipe): Recipe => {
      const { list, shapes } = withSky(recipe.areas as unknown as AreasSettings, area, picture);
      return { ...recipe, areas: { ...recipe.areas, list, shapes } as unknown as Recipe['areas'] };
    };
  const states = $derived.by((): FrameState[] => {
    const area = chosen?.area.id ?? null;
    return [
      { id: NONE, label: 'its own', apply: showing(area, null) },
      ...skies.map(({ id, name }) => ({ id, label: name, title: name, apply: showing(area, id) }))
    ];
  });
  const list = async (): Promise<void> => {
    skies = await call<SkyCard[]>('/api/skies');
  };

  /** Does what may fail in words. */
  async function tried(work: () => Promise<string>): Promise<void> {
    try {
      said = await work();
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
  onMount(() => void tried(async () => (await list(), '')));
  const take = (file: File): Promise<void> =>
    tried(async () => {
      const path = `/api/skies?name=${encodeURIComponent(file.name)}`;
      const taken = await call<SkyCard>(path, { method: 'POST', body: file });
      await list();
      showSky(bench, taken.id);
      return `“${taken.name}” is taken in.`;
    });
  const remove = (card: SkyCard): Promise<void> =>
    tried(async () => {
      showSky(bench, null);
      await bench.saver.flush();
      await call(`/api/skies/${card.id}`, { method: 'DELETE' });
      await list();
      return `“${card.name}” is removed.`;
    });
  const LIES = ['across', 'up', 'turn', 'scale', 'match'];
</script>

<section class="column flex flex-[1_1_420px] flex-col beside:h-60" aria-label="Skies" data-testid="skies">
  <StatePictures
    {bench}
    {sheet}
    {states}
    chosen={sky?.picture ?? NONE}
    choose={(id) => showSky(bench, id === NONE ? null : id)}
    idle={off}
  />
  <div class="flex items-center gap-2.5 pt-1">
    <Button
      color="light"
      disabled={off !== null}
      {...hint(
        'A picture of a sky, for all frames of the studio: JPEG, PNG or TIFF, its lower edge the horizon'
      )}
      onclick={() => chooser?.click()}>Take a picture…</Button
    >
    {#if current && !current.shipped}
      <Button
        color="light"
        {...hint(`Remove “${current.name}” from the skies of the studio`)}
        onclick={() => void remove(current)}>Remove</Button
      >
    {/if}
    {#if chosen && sky}
      <div class="w-24 flex-none">
        <SettingControl
          {bench}
          step="areas"
          name="mirrored"
          within={['list', chosen.index, 'sky']}
          idle={off}
        />
      </div>
    {/if}
    <p class="quiet min-w-0 flex-1 text-xs" role="status">
      {said || mine.said || 'Reported as replaced. Water and glass keep what they mirror.'}
    </p>
  </div>
  <Fileupload
    class="hidden"
    accept=".jpg,.jpeg,.png,.tif,.tiff"
    aria-label="Take a picture of a sky"
    bind:elementRef={chooser}
    onchange={() => {
      const [file] = chooser?.files ?? [];
      if (file) void take(file);
      if (chooser) chooser.value = '';
    }}
  />
</section>
<section class="column" aria-label="How the sky lies">
  {#if chosen && sky}
    {#each LIES as name (name)}
      <SettingControl {bench} step="areas" {name} within={['list', chosen.index, 'sky']} idle={off} />
    {/each}
  {:else}
    <p class="quiet text-sm">No other sky is shown: choose one, and say here how it lies.</p>
  {/if}
</section>
