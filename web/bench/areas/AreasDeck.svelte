<!-- The Areas step: the list of areas, and pages of the chosen one. -->
<script lang="ts">
  import DeckPages from '../controls/DeckPages.svelte';
  import type { DeckProps } from '../parts/step-parts.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import ZoneControls from '../colour/ZoneControls.svelte';
  import AreaHues from './AreaHues.svelte';
  import CoveredTones from './CoveredTones.svelte';
  import LevelNumbers from '../tone/LevelNumbers.svelte';
  import AreaCurve from './AreaCurve.svelte';
  import AreaRevision from './AreaRevision.svelte';
  import AreaList from './AreaList.svelte';
  import AreaSettings from './AreaSettings.svelte';
  import AreaSky from './AreaSky.svelte';
  import AreaShape from './AreaShape.svelte';
  import type { AreasToolState } from './areas-tool.svelte.ts';
  import { type AreasPage, areasView } from './areas-view.svelte.ts';
  import { untrack } from 'svelte';
  import ToneRange from './ToneRange.svelte';
  import { areasOf, changeShape, chosenArea, setInArea } from './edit-areas.ts';

  let { bench, sheet }: DeckProps<AreasToolState> = $props();
  const mine = $derived(areasView(bench));
  // What was given a shape is taken in hand, and is to be drawn.
  $effect(() =>
    untrack(() => {
      if (chosenArea(bench)) return;
      const { list, shapes } = areasOf(bench);
      const bare = list.find(({ shape }) =>
        shapes.some(({ id, parts, invert }) => id === shape && parts.length === 0 && !invert)
      );
      if (!bare) return;
      mine.area = bare.id;
      mine.page = 'shape';
      mine.said = 'Draw where it is to act.';
    })
  );
  const off = $derived(bench.recipe.areas.enabled ? null : 'The Areas step is switched off.');
  const PAGES: { page: AreasPage; label: string }[] = [
    { page: 'shape', label: 'Shape' },
    { page: 'edge', label: 'Edge' },
    { page: 'light', label: 'Light' },
    { page: 'local', label: 'Local' },
    { page: 'levels', label: 'Levels' },
    { page: 'curve', label: 'Curve' },
    { page: 'colour', label: 'Colour' },
    { page: 'hues', label: 'Hues' },
    { page: 'revision', label: 'Revision' },
    { page: 'sky', label: 'Sky' }
  ];
  /** Why what is set in the area acts on nothing. */
  const shown = $derived.by(() => {
    const letter = chosenArea(bench)?.area.revision?.letter;
    return letter ? `Revision ${letter} is shown in this area (page Revision).` : null;
  });
  const limited = $derived(
    chosenArea(bench)?.shape.limited ? null : 'Switch Only these tones on first: all tones are meant now.'
  );
  const refined = $derived(
    (chosenArea(bench)?.shape.radius ?? 0) > 0 ? null : 'Refine is at 0: the edge follows nothing yet.'
  );
  const area = $derived(chosenArea(bench)?.area);
</script>

{#snippet levels()}
  {#if area}
    <LevelNumbers
      levels={area.settings.tone.levels}
      off={off ?? shown}
      change={(own, moving) =>
        setInArea(bench, 'tone', { levels: { ...area.settings.tone.levels, ...own } }, moving)}
    />
  {/if}
{/snippet}
{#snippet covered()}
  {#if area}
    {@const { black, white } = area.settings.tone.levels}
    <CoveredTones counts={mine.histogram?.luminance ?? []} ends={[black, white]} />
  {/if}
{/snippet}
{#snippet limits()}
  {@const shape = chosenArea(bench)?.shape}
  {#if shape?.limited}
    <ToneRange
      {sheet}
      shape={{ ...shape, limited: false }}
      range={{ low: shape.low, high: shape.high, fade: shape.soft }}
      change={(own, moving) => changeShape(bench, shape.id, own, moving)}
    />
  {/if}
{/snippet}
{#snippet detail()}
  {@const chosen = chosenArea(bench)}
  {#if chosen}
    {#each ['sharpening', 'noise', 'glow'] as name (name)}
      <SettingControl
        {bench}
        step="areas"
        {name}
        within={['list', chosen.index, 'settings', 'finish']}
        idle={off ?? shown}
      />
    {/each}
  {/if}
{/snippet}
{#snippet laidOver()}
  {#if area}
    <ZoneControls
      zone={area.settings.colour.zoneAll}
      label="the area"
      off={off ?? shown}
      change={(own, moving) =>
        setInArea(bench, 'colour', { zoneAll: { ...area.settings.colour.zoneAll, ...own } }, moving)}
    />
  {/if}
{/snippet}

<DeckPages label="Pages of areas" pages={PAGES} current={mine.page} turnTo={(page) => (mine.page = page)} />
<AreaList {bench} {off} />
{#if mine.page === 'shape'}
  <AreaShape {bench} {sheet} {off} />
{:else if mine.page === 'edge'}
  <AreaSettings
    {bench}
    {off}
    columns={[
      {
        label: 'Edge',
        of: 'shape',
        names: ['radius', 'sensitivity', 'grow', 'feather', 'invert'],
        idle: (name) => (name === 'sensitivity' ? refined : null)
      },
      {
        label: 'Tones',
        of: 'shape',
        names: ['limited', 'low', 'high', 'soft'],
        more: limits,
        idle: (name) => (name === 'limited' ? null : limited)
      }
    ]}
  />
{:else if mine.page === 'light'}
  <AreaSettings
    {bench}
    {off}
    columns={[
      { label: 'Light', of: 'tone', names: ['exposure', 'highlights', 'shadows', 'midtones'] },
      { label: 'Contrast and ends', of: 'tone', names: ['contrast', 'white', 'black'] }
    ]}
    idle={shown}
  />
{:else if mine.page === 'local'}
  <AreaSettings
    {bench}
    {off}
    columns={[
      { label: 'Local contrast', of: 'tone', names: ['fine', 'middle', 'broad'] },
      { label: 'Haze and detail', of: 'tone', names: ['haze', 'hazeDepth'], more: detail }
    ]}
    idle={shown}
  />
{:else if mine.page === 'colour'}
  <AreaSettings
    {bench}
    {off}
    columns={[
      { label: 'Balance', of: 'colour', names: ['warmth', 'tint', 'hue', 'saturation', 'vibrance'] },
      { label: 'Grey', of: 'colour', names: ['mono'], more: laidOver }
    ]}
    idle={shown}
  />
{:else if mine.page === 'levels'}
  <AreaSettings
    {bench}
    {off}
    columns={[
      { label: 'Levels', of: 'tone', names: [], more: levels },
      { label: 'Tones of the area', of: 'tone', names: [], more: covered }
    ]}
  />
{:else if mine.page === 'curve'}
  <AreaCurve {bench} off={off ?? shown} />
{:else if mine.page === 'hues'}
  <AreaHues {bench} {sheet} off={off ?? shown} />
{:else if mine.page === 'revision'}
  <AreaRevision {bench} {off} />
{:else}
  <AreaSky {bench} {sheet} {off} />
{/if}
