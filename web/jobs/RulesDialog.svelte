<!-- House settings that are laid over a job's frames by themselves, and over which. -->
<script lang="ts">
  import { Button, Input, Modal, Select } from 'flowbite-svelte';
  import type { HouseRule } from '$core/recipe/house-rules.ts';
  import { placedName } from '$core/recipe/house-settings.ts';
  import { call } from '$lib/call.ts';
  import type { HouseRow } from '$server/recipes/house-settings.ts';

  interface Props {
    open: boolean;
    job: string;
    rules: readonly HouseRule[];
    kept: () => Promise<void>;
  }
  let { open = $bindable(), job, rules, kept }: Props = $props();
  let sets = $state.raw<HouseRow[]>([]);
  let own = $state<HouseRule[]>([]);
  let said = $state('');
  $effect(() => {
    if (!open) return;
    own = rules.map((rule) => ({ ...rule }));
    said = '';
    call<HouseRow[]>('/api/house-settings').then(
      (found) => (sets = found),
      (reason: Error) => (said = reason.message)
    );
  });
  const add = (): void =>
    void own.push({ set: '', camera: '', lens: '', room: '', isoFrom: null, isoTo: null });
  /** A number that was typed; nothing is any. */
  const numberOf = (text: string): number | null => (text.trim() === '' ? null : Math.round(Number(text)));
  async function keep(): Promise<void> {
    try {
      await call(`/api/jobs/${job}`, {
        method: 'PATCH',
        body: { house_rules: $state.snapshot(own).filter(({ set }) => set !== '') }
      });
      await kept();
      open = false;
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
</script>

<Modal title="House settings by themselves" bind:open size="md">
  {#if sets.length === 0}
    <p>There are no house settings yet. On the bench, House keeps steps of a frame as a set.</p>
  {:else}
    <p class="quiet">
      Laid over each frame that is added where all of its line holds; what someone did stays. Parts of names,
      any of those parted by commas. With a room, once the frame’s room is named.
    </p>
    <ul class="flex flex-col gap-2" aria-label="Rules">
      {#each own as rule, i (i)}
        <li class="flex items-center gap-1.5">
          <Select placeholder="" class="w-36 shrink-0" aria-label="Set of rule {i + 1}" bind:value={rule.set}>
            <option value="" disabled>Choose…</option>
            {#each sets as set (set.id)}<option value={set.id}>{placedName(set)}</option>{/each}
          </Select>
          <Input placeholder="any camera" aria-label="Camera of rule {i + 1}" bind:value={rule.camera} />
          <Input placeholder="any lens" aria-label="Lens of rule {i + 1}" bind:value={rule.lens} />
          <Input placeholder="any room" aria-label="Room of rule {i + 1}" bind:value={rule.room} />
          <Input
            class="w-20 shrink-0"
            inputmode="numeric"
            placeholder="ISO from"
            aria-label="ISO from which rule {i + 1} holds"
            value={rule.isoFrom ?? ''}
            onchange={(event) => (rule.isoFrom = numberOf(event.currentTarget.value))}
          />
          <Input
            class="w-20 shrink-0"
            inputmode="numeric"
            placeholder="ISO to"
            aria-label="ISO to which rule {i + 1} holds"
            value={rule.isoTo ?? ''}
            onchange={(event) => (rule.isoTo = numberOf(event.currentTarget.value))}
          />
          <Button color="light" aria-label="Remove rule {i + 1}" onclick={() => own.splice(i, 1)}>×</Button>
        </li>
      {/each}
    </ul>
    <div><Button color="light" onclick={add}>Add a rule</Button></div>
  {/if}
  <div class="foot flex items-center gap-2.5">
    <Button disabled={sets.length === 0} onclick={() => void keep()}>Keep</Button>
    <span role="status">{said}</span>
  </div>
</Modal>
