<!-- Choosing a lens from the whole catalogue. -->
<script lang="ts">
  import { Button, Input, Modal } from 'flowbite-svelte';
  import { call } from '$lib/call.ts';
  import type { ProfileRow } from '$server/lenses/catalogue.ts';

  let { open = $bindable(), pick }: { open: boolean; pick: (id: string) => Promise<void> } = $props();
  let text = $state('');
  let rows = $state<ProfileRow[]>([]);
  let total = $state(0);
  let error = $state('');
  let timer: ReturnType<typeof setTimeout> | undefined;

  async function search(): Promise<void> {
    try {
      const found = await call<{ rows: ProfileRow[]; total: number }>(
        `/api/lenses?text=${encodeURIComponent(text)}`
      );
      rows = found.rows;
      total = found.total;
      error = '';
    } catch (reason) {
      error = (reason as Error).message;
    }
  }
  $effect(() => {
    if (!open) return;
    void text;
    clearTimeout(timer);
    timer = setTimeout(search, 150);
  });
  const focals = (row: ProfileRow): string =>
    row.focal_min === null
      ? ''
      : row.focal_min === row.focal_max
        ? `${row.focal_min} mm`
        : `${row.focal_min}–${row.focal_max} mm`;
</script>

<Modal title="Choose a lens" bind:open size="md">
  <Input
    class="w-full!"
    type="search"
    placeholder="Maker, lens or focal length"
    aria-label="Search lenses"
    bind:value={text}
  />
  {#if error}<p class="text-accent">{error}</p>{/if}
  <ul class="list h-80 overflow-y-auto border border-line">
    {#each rows as row (row.id)}
      <li>
        <Button
          color="alternative"
          class="ghost h-auto grid w-full grid-cols-[1.4fr_0.8fr_0.6fr_1.2fr] gap-2.5 rounded-none border-0 px-2 py-1.25 text-left hover:bg-soft!"
          onclick={async () => {
            open = false;
            await pick(row.id);
          }}
        >
          <span>{row.lens}</span><span class="quiet">{row.maker}</span><span class="quiet">{focals(row)}</span
          >
          <span class="quiet">{row.corrects.join(', ')}</span>
        </Button>
      </li>
    {/each}
  </ul>
  <p class="quiet">
    {total > rows.length
      ? `${rows.length} of ${total} shown: type more to narrow them down.`
      : `${total} lenses.`}
    Profiles are kept in the <a class="underline" href="/lenses">Catalogue</a>.
  </p>
</Modal>
