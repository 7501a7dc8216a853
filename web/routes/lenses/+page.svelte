<script lang="ts">
  import {
    Button,
    Fileupload,
    Input,
    Select,
    Table,
    TableBody,
    TableBodyCell,
    TableBodyRow,
    TableHead,
    TableHeadCell
  } from 'flowbite-svelte';
  import { untrack } from 'svelte';
  import { call } from '$lib/call.ts';
  import type { ImportReport } from '$server/lenses/import-profiles.ts';
  import type { ProfileRow } from '$server/lenses/catalogue.ts';
  import ProfileDetails from '../../catalogue/ProfileDetails.svelte';
  import TopBand from '../../jobs/TopBand.svelte';
  import type { PageProps } from './$types';
  import { hint } from '../../lib/hints/hint.ts';

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
  let files = $state<HTMLInputElement>();
  let folder = $state<HTMLInputElement>();
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

  async function bring(input: HTMLInputElement | undefined): Promise<void> {
    if (!input) return;
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
  const COLUMNS = [
    ['Lens', ''],
    ['Maker', ''],
    ['mm', 'Focal length'],
    ['Sensor', 'Diagonal in mm'],
    ['D', 'Distortion'],
    ['L', 'Lateral colour'],
    ['F', 'Falloff'],
    ['Origin', ''],
    ['Used', 'Frames that it is applied to']
  ];
  const has = (row: ProfileRow, what: string): string => (row.corrects.includes(what) ? '●' : '·');
</script>

<svelte:head><title>Catalogue · Line True</title></svelte:head>
<TopBand>
  <span class="quiet">/</span><a href="/">Jobs</a><span class="quiet">/</span><span>Catalogue</span>
  {#snippet actions()}
    <Button color="light" onclick={() => folder?.click()}>Import a folder</Button>
    <Button onclick={() => files?.click()}>Import profiles</Button>
  {/snippet}
</TopBand>
<Fileupload
  class="hidden"
  multiple
  accept=".json,.xml"
  bind:elementRef={files}
  onchange={() => bring(files)}
  data-testid="profiles"
/>
<Fileupload class="hidden" webkitdirectory bind:elementRef={folder} onchange={() => bring(folder)} />
<main class="page">
  <section
    class="flex flex-col min-h-0 pt-3.5 pr-4.5 pb-2 pl-7 border-r border-r-line"
    aria-label="Lens profiles"
  >
    <div class="filters flex gap-2 mb-2.5">
      <Input type="search" placeholder="Maker, lens, mount or body" aria-label="Search" bind:value={text} />
      <Select placeholder="" aria-label="Origin" bind:value={origin}>
        <option value="">any origin</option>
        <option value="shipped">shipped</option>
        <option value="imported">imported</option>
        <option value="measured">measured here</option>
      </Select>
      <Select placeholder="" aria-label="Corrects" bind:value={corrects}>
        <option value="">any correction</option>
        <option value="distortion">distortion</option>
        <option value="lateral">lateral colour</option>
        <option value="falloff">falloff</option>
      </Select>
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
          <Button color="light" onclick={() => (report = null)}>Close</Button>
        </p>
        <ul>
          {#each report.failed as failed (failed.file)}<li class="text-accent">{failed.why}</li>{/each}
          {#each report.skipped as skipped, i (i)}<li>{skipped.what}: {skipped.why}.</li>{/each}
        </ul>
      </div>
    {/if}
    <div class="flex-1 overflow-y-auto border border-line bg-panel">
      <Table>
        <TableHead class="sticky top-0 bg-paper">
          {#each COLUMNS as [name, title] (name)}<TableHeadCell {...hint(title)}>{name}</TableHeadCell>{/each}
        </TableHead>
        <TableBody>
          {#each rows as row (row.id)}
            <TableBodyRow
              class={row.id === shown ? 'bg-soft' : 'hover:bg-soft'}
              onclick={() => (shown = row.id)}
            >
              <TableBodyCell class="whitespace-normal"
                ><Button
                  color="alternative"
                  class="ghost h-auto border-0 p-0 text-left whitespace-normal"
                  onclick={() => (shown = row.id)}>{row.lens}</Button
                ></TableBodyCell
              >
              <TableBodyCell class="whitespace-normal">{row.maker}</TableBodyCell>
              <TableBodyCell class="text-right">{focals(row)}</TableBodyCell>
              <TableBodyCell class="text-right">{(row.sensor_half_diagonal * 2).toFixed(1)}</TableBodyCell>
              <TableBodyCell>{has(row, 'distortion')}</TableBodyCell>
              <TableBodyCell>{has(row, 'lateral')}</TableBodyCell>
              <TableBodyCell>{has(row, 'falloff')}</TableBodyCell>
              <TableBodyCell class="text-faint">{row.origin}</TableBodyCell>
              <TableBodyCell class="text-right">{row.used || ''}</TableBodyCell>
            </TableBodyRow>
          {/each}
        </TableBody>
      </Table>
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
  .report ul {
    max-height: 90px;
    overflow-y: auto;
    font-size: 12px;
  }
</style>
