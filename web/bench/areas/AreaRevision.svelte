<!-- What an area shows: what is set in it, or another revision of the frame. -->
<script lang="ts">
  import { Select } from 'flowbite-svelte';
  import { completeRecipe } from '$core/recipe/recipe.ts';
  import { call } from '$lib/call.ts';
  import type { Revision } from '$server/recipes/revisions.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import { hint } from '../../lib/hints/hint.ts';
  import { changeArea, chosenArea } from './edit-areas.ts';

  let { bench, off }: { bench: Bench; off: string | null } = $props();
  const chosen = $derived(chosenArea(bench));
  let revisions = $state.raw<Revision[]>([]);
  let said = $state('');
  $effect(() => {
    call<Revision[]>(`/api/frames/${bench.frame.id}/revisions`).then(
      (found) => (revisions = found),
      (reason: Error) => (said = reason.message)
    );
  });
  function show(letter: string): void {
    const found = revisions.find((revision) => revision.letter === letter);
    if (!chosen) return;
    const { tone, colour } = completeRecipe(found?.recipe);
    const revision = found ? { letter, settings: { tone, colour } } : null;
    changeArea(bench, chosen.area.id, { revision });
  }
</script>

{#if chosen}
  <section class="column" aria-label="What the area shows">
    <SettingControl {bench} step="areas" name="opacity" within={['list', chosen.index]} idle={off} />
    <label
      class="flex items-center gap-1.5 text-sm"
      {...hint('Tone and colour of a revision within the shape, in place of what is set here')}
    >
      Shows
      <Select
        placeholder=""
        class="min-w-0 flex-1"
        disabled={off !== null || (revisions.length === 0 && !chosen.area.revision)}
        value={chosen.area.revision?.letter ?? ''}
        onchange={(event) => show(event.currentTarget.value)}
      >
        <option value="">what is set here</option>
        {#each revisions as { letter, name } (letter)}
          <option value={letter}>revision {letter}{name ? `, ${name}` : ''}</option>
        {/each}
        {#if chosen.area.revision && !revisions.some(({ letter }) => letter === chosen.area.revision?.letter)}
          <option value={chosen.area.revision.letter}
            >revision {chosen.area.revision.letter}, as it was</option
          >
        {/if}
      </Select>
    </label>
    <p class="quiet text-xs" role="status">
      {said ||
        (revisions.length === 0
          ? 'Keep a state as a revision first (Shift+Y), then show it here through the shape.'
          : chosen.area.revision
            ? 'It is shown as it was when it was chosen; what is set in the area rests meanwhile.'
            : '')}
    </p>
  </section>
{/if}
