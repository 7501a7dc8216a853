<script lang="ts">
  import { untrack } from 'svelte';
  import { call } from '$lib/call.ts';
  import type { ImportReport } from '$server/lenses/import-profiles.ts';
  import type { ProfileRow } from '$server/lenses/catalogue.ts';
  import ProfileDetails from '../../catalogue/ProfileDetails.svelte';
  import TopBand from '../../jobs/TopBand.svelte';
  import type { PageProps } from './$types';

  let { data }: PageProps = $props();
  let text = $state('');
  let origin = $state('');
  let corrects = $state('');
  let rows = $state.raw<ProfileRow[]>(untrack(() => data.rows));
  let total = $state(untrack(() => data.total));
  let all = $state(untrack(() => data.all));
  let shown = $state<string | null>(untrack(() => data.rows[0]?.id ?? null));
  let report = $state.raw<ImportReport | null>(null);
  let busy = $state('');
  let error = $state('');
  let files: HTMLInputElement;
  let folder: HTMLInputElement;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let started = false;

  async function search(): Promise<void> {
    try {
      const query = new URLSearchParams({ text, origin, corrects });
      ({ rows, total, all } = await call<{ rows: ProfileRow[]; total: number; all: number }>(
        `/api/lenses?${query}`
      ));
      error = '';
    } catch (reason) {
      error = (reason as Error).message;
    }
  }
  $effect(() => {
    void [text, origin, corrects];
    if (!started) {
      started = true;
      return;
    }
    clearTimeout(timer);
    timer = setTimeout(search, 150);
  });

  async function bring(input: HTMLInputElement): Promise<void> {
    const chosen = [...(input.files ?? [])].filter((file) => /\.(json|xml)$/i.test(file.name));
    const none = (input.files?.length ?? 0) > 0 && chosen.length === 0;
    error = none ? 'There is no profile (JSON) and no calibration data (XML) among these files.' : '';
    if (chosen.length === 0) return;
    const large = chosen.find((file) => file.size > 20 * 1024 * 1024);
    if (large) {
      error = `${large.name} is ${Math.round(large.size / 1048576)} MB: files of at most 20 MB are read.`;
      input.value = '';
      return;
    }
    busy = `Reading ${chosen.length} ${chosen.length === 1 ? 'file' : 'files'}…`;
    try {
      const texts = await Promise.all(
        chosen.map(async (file) => ({ name: file.name, text: await file.text() }))
      );
      report = await call<ImportReport>('/api/lenses', { method: 'POST', body: { files: texts } });
      await search();
    } catch (reason) {
      error = (reason as Error).message;
    }
    busy = '';
    input.value = '';
  }

  async function changed(id: string | null): Promise<void> {
    await search();
    shown = id ?? rows[0]?.id ?? null;
  }
  const focals = (row: ProfileRow): string =>
    row.focal_min === null
      ? ''
      : row.focal_min === row.focal_max
        ? `${row.focal_min}`
        : `${row.focal_min}–${row.focal_max}`;
  const has = (row: ProfileRow, what: string): string => (row.corrects.includes(what) ? '●' : '·');
</script>

<svelte:head><title>Catalogue · Line True</title></svelte:head>
<TopBand>
  <span class="quiet">/</span><a href="/">Jobs</a><span class="quiet">/</span><span>Catalogue</span>
  {#snippet actions()}
    <button class="tool" onclick={() => folder.click()}>Import a folder</button>
    <button class="tool main" onclick={() => files.click()}>Import profiles</button>
  {/snippet}
</TopBand>
<input
  class="hidden"
  type="file"
  multiple
  accept=".json,.xml"
  bind:this={files}
  onchange={() => bring(files)}
  data-testid="profiles"
/>
<input class="hidden" type="file" webkitdirectory bind:this={folder} onchange={() => bring(folder)} />
<main class="page">
  <section
    class="flex flex-col min-h-0 pt-3.5 pr-4.5 pb-2 pl-7 border-r border-r-line"
    aria-label="Lens profiles"
  >
    <div class="filters flex gap-2 mb-2.5">
      <input type="search" placeholder="Maker, lens, mount or body" aria-label="Search" bind:value={text} />
      <select class="choice" aria-label="Origin" bind:value={origin}>
        <option value="">any origin</option>
        <option value="shipped">shipped</option>
        <option value="imported">imported</option>
        <option value="measured">measured here</option>
      </select>
      <select class="choice" aria-label="Corrects" bind:value={corrects}>
        <option value="">any correction</option>
        <option value="distortion">distortion</option>
        <option value="lateral">lateral colour</option>
        <option value="falloff">falloff</option>
      </select>
    </div>
    {#if error}<p class="text-accent" role="alert">{error}</p>{/if}
    {#if busy}<p role="status">{busy}</p>{/if}
    {#if report}
      <div class="report border border-line bg-panel py-1.5 px-2.5 mb-2" role="status">
        <p>
          {report.files}
          {report.files === 1 ? 'file' : 'files'} read: {report.profiles} profiles, {report.bodies} camera bodies.
          {report.failed.length > 0 ? `${report.failed.length} not read.` : ''}
          {report.skipped.length > 0 ? `${report.skipped.length} records or parts left out.` : ''}
          <button class="tool" onclick={() => (report = null)}>Close</button>
        </p>
        <ul>
          {#each report.failed as failed (failed.file)}<li class="text-accent">{failed.why}</li>{/each}
          {#each report.skipped as skipped, i (i)}<li>{skipped.what}: {skipped.why}.</li>{/each}
        </ul>
      </div>
    {/if}
    <div class="flex-1 overflow-y-auto border border-line bg-panel">
      <table class="w-full border-collapse text-[12.5px]">
        <thead>
          <tr>
            <th class="sticky top-0 bg-paper text-left font-medium py-1.25 px-1.5 border-b border-b-line"
              >Lens</th
            ><th class="sticky top-0 bg-paper text-left font-medium py-1.25 px-1.5 border-b border-b-line"
              >Maker</th
            ><th class="sticky top-0 bg-paper text-left font-medium py-1.25 px-1.5 border-b border-b-line"
              >mm</th
            ><th class="sticky top-0 bg-paper text-left font-medium py-1.25 px-1.5 border-b border-b-line"
              >Sensor</th
            >
            <th
              class="sticky top-0 bg-paper text-left font-medium py-1.25 px-1.5 border-b border-b-line"
              title="Distortion">D</th
            ><th
              class="sticky top-0 bg-paper text-left font-medium py-1.25 px-1.5 border-b border-b-line"
              title="Lateral colour">L</th
            ><th
              class="sticky top-0 bg-paper text-left font-medium py-1.25 px-1.5 border-b border-b-line"
              title="Falloff">F</th
            >
            <th class="sticky top-0 bg-paper text-left font-medium py-1.25 px-1.5 border-b border-b-line"
              >Origin</th
            ><th class="sticky top-0 bg-paper text-left font-medium py-1.25 px-1.5 border-b border-b-line"
              >Used</th
            >
          </tr>
        </thead>
        <tbody>
          {#each rows as row (row.id)}
            <tr class:lit={row.id === shown} onclick={() => (shown = row.id)}>
              <td class="py-1 px-1.5 border-b border-b-soft"
                ><button onclick={() => (shown = row.id)}>{row.lens}</button></td
              >
              <td class="py-1 px-1.5 border-b border-b-soft">{row.maker}</td>
              <td class="py-1 px-1.5 border-b border-b-soft text-right whitespace-nowrap">{focals(row)}</td>
              <td class="py-1 px-1.5 border-b border-b-soft text-right whitespace-nowrap"
                >{(row.sensor_half_diagonal * 2).toFixed(1)}</td
              >
              <td class="py-1 px-1.5 border-b border-b-soft">{has(row, 'distortion')}</td>
              <td class="py-1 px-1.5 border-b border-b-soft">{has(row, 'lateral')}</td>
              <td class="py-1 px-1.5 border-b border-b-soft">{has(row, 'falloff')}</td>
              <td class="quiet py-1 px-1.5 border-b border-b-soft">{row.origin}</td>
              <td class="py-1 px-1.5 border-b border-b-soft text-right whitespace-nowrap">{row.used || ''}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    <p class="quiet foot mt-1.5 text-sm">
      {rows.length < total
        ? `${rows.length} of ${total} shown; type more to narrow them down. `
        : `${total} shown. `}{all} profiles in the catalogue. D distortion, L lateral colour, F falloff; sensors
      by their diagonal in mm.
    </p>
  </section>
  <section class="details overflow-y-auto pt-3.5 pr-7 pb-3.5 pl-4.5" aria-label="Details">
    {#if shown}<ProfileDetails id={shown} {changed} />{:else}<p class="quiet">
        Choose a lens to see its figures.
      </p>{/if}
  </section>
</main>

<style>
  .page {
    display: grid;
    grid-template-columns: minmax(560px, 1.1fr) minmax(460px, 1fr);
    height: calc(100vh - 44px);
  }
  .filters input {
    flex: 1;
    height: 29px;
    padding: 0 8px;
    border: 1px solid var(--line);
    border-radius: 2px;
    font-size: 13px;
  }
  td button {
    text-align: left;
  }
  tr.lit td {
    background: var(--soft);
  }
  tbody tr:hover td {
    background: var(--soft);
  }
  .report ul {
    max-height: 90px;
    overflow-y: auto;
    font-size: 12px;
  }
</style>
