<!-- Export of this frame: settings, progress with cancel, and the finished pictures with their reports. -->
<script lang="ts">
  import { Button, Checkbox, Input, Label, Modal, Progressbar } from 'flowbite-svelte';
  import { type ExportSettings, completeExport, exportSchema } from '$core/output/export-schema.ts';
  import { call } from '$lib/call.ts';
  import type { ExportRow } from '$server/deliveries/exports.ts';
  import type { Bench } from './bench-state.svelte.ts';

  let { bench, open = $bindable() }: { bench: Bench; open: boolean } = $props();
  const settings = exportSchema.properties;
  let wanted = $state<ExportSettings>(completeExport({}));
  let rows = $state<ExportRow[]>([]);
  let error = $state('');
  let timer: ReturnType<typeof setTimeout> | undefined;
  const busy = $derived(rows.some((row) => row.state === 'queued' || row.state === 'running'));

  async function refresh(): Promise<void> {
    clearTimeout(timer);
    try {
      rows = await call<ExportRow[]>(`/api/frames/${bench.frame.id}/exports`);
      error = '';
    } catch (reason) {
      error = (reason as Error).message;
    }
    if (open && (busy || error)) timer = setTimeout(refresh, 300);
  }

  $effect(() => {
    if (open) void refresh();
    return () => clearTimeout(timer);
  });

  async function start(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    error = '';
    try {
      await bench.saver.flush();
      await call(`/api/frames/${bench.frame.id}/exports`, {
        method: 'POST',
        body: { ...$state.snapshot(wanted), longEdge: wanted.longEdge || null }
      });
      await refresh();
    } catch (reason) {
      error = (reason as Error).message;
    }
  }

  async function cancel(id: string): Promise<void> {
    await call(`/api/exports/${id}`, { method: 'DELETE' });
    await refresh();
  }

  const sizeText = (row: ExportRow): string =>
    row.report && row.bytes
      ? `${row.report.picture.pixels.width} × ${row.report.picture.pixels.height} px, ${(row.bytes / 1e6).toFixed(1)} MB`
      : '';
</script>

<Modal title="Export" bind:open size="md" class="export">
  <form onsubmit={start} class="form" aria-label="Export settings">
    <p class="what">
      JPEG in sRGB, {bench.plan.output.width} × {bench.plan.output.height} px at full size, with a report of its
      readings.
    </p>
    <div class="fields">
      <Label
        >{settings.quality.label}
        <Input
          type="number"
          size="sm"
          min={settings.quality.minimum}
          max={settings.quality.maximum}
          bind:value={wanted.quality}
        />
      </Label>
      <Label
        >{settings.longEdge.label} (px)
        <Input
          type="number"
          size="sm"
          min={settings.longEdge.minimum}
          placeholder="full size"
          bind:value={wanted.longEdge as number}
        />
      </Label>
      <Label
        >{settings.ppi.label} (ppi)
        <Input
          type="number"
          size="sm"
          min={settings.ppi.minimum}
          max={settings.ppi.maximum}
          bind:value={wanted.ppi}
        />
      </Label>
    </div>
    <Checkbox bind:checked={wanted.keepPosition} disabled={!bench.facts.position}>
      {settings.keepPosition.label}{bench.facts.position ? '' : ' (the file has none)'}
    </Checkbox>
    {#if error}<p class="error" role="alert">{error}</p>{/if}
    <Button type="submit" size="sm" color="primary">Export JPEG</Button>
  </form>
  <ul class="rows" aria-label="Exports of this frame">
    {#each rows as row (row.id)}
      <li data-state={row.state}>
        {#if row.state === 'queued' || row.state === 'running'}
          <span class="grow"><Progressbar progress={Math.round(row.progress * 100)} size="h-2" /></span>
          <span>{row.state === 'queued' ? 'waiting' : `${Math.round(row.progress * 100)} %`}</span>
          <button class="tool" onclick={() => cancel(row.id)}>Cancel</button>
        {:else if row.state === 'done'}
          <span class="grow">{row.file} <span class="quiet">{sizeText(row)}</span></span>
          <a class="tool" href={`/api/exports/${row.id}/picture`} download>Picture</a>
          <a class="tool" href={`/api/exports/${row.id}/report`} download>Report</a>
        {:else}
          <span class="grow quiet">{row.state === 'failed' ? row.error : 'Cancelled'}</span>
        {/if}
      </li>
    {/each}
  </ul>
</Modal>

<style>
  .form {
    display: flex;
    flex-direction: column;
    gap: 12px;
    align-items: flex-start;
  }
  .fields {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 12px;
  }
  .rows {
    border-top: 1px solid var(--line);
    max-height: 190px;
    overflow-y: auto;
  }
  .rows li {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 6px 0;
    border-bottom: 1px solid var(--soft);
  }
  .grow {
    flex: 1;
    min-width: 0;
  }
  .error {
    color: var(--accent);
    font-weight: 500;
  }
</style>
