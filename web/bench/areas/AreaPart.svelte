<!-- The part in hand: its settings, from their own definitions. -->
<script lang="ts">
  import { PART_SCHEMAS, type Part } from '$core/steps/areas/parts/part.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { areasOf, chosenArea } from './edit-areas.ts';

  let { bench, off, part }: { bench: Bench; off: string | null; part: Part | null } = $props();
  const within = $derived.by(() => {
    const shape = chosenArea(bench)?.shape;
    return shape && part
      ? ['shapes', areasOf(bench).shapes.indexOf(shape), 'parts', shape.parts.indexOf(part)]
      : [];
  });
  /** Those with a label have a control; the others are drawn on the picture. */
  const names = $derived.by(() => {
    const schema = PART_SCHEMAS.find(({ properties }) => properties.kind.const === part?.kind);
    return Object.entries(schema?.properties ?? {}).flatMap(([name, each]) =>
      'label' in each ? [name] : []
    );
  });
  const told = $derived.by(() => {
    if (!part) return 'Take a part in hand to change how it is drawn and meets the others.';
    if (part.kind === 'colour') return `${part.picks.length} picked; press on the picture for more.`;
    if (part.kind === 'found')
      return 'Found on each frame anew. Refine (page Edge) lays its edge along roofs and branches.';
    if (part.kind !== 'brush') return '';
    const count = part.strokes.length;
    return `${count === 1 ? 'One stroke' : `${count} strokes`}. Undo takes them back one by one.`;
  });
</script>

<section class="column flex-1 beside:flex-none" aria-label="Part">
  {#if within.length > 0}
    {#each names as name (name)}
      <SettingControl {bench} step="areas" {name} {within} idle={off} />
    {/each}
  {/if}
  <p class="quiet text-sm">{told}</p>
</section>
