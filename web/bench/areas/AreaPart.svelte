<!-- The part in hand: its settings, from their own definitions. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { PART_SCHEMAS, type Part, type PartOf } from '$core/steps/areas/parts/part.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import ToneRange from './ToneRange.svelte';
  import { addCounterpart, areasOf, changePart, chosenArea } from './edit-areas.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
    part: Part | null;
  }
  let { bench, sheet, off, part }: Props = $props();
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
  /** What a range of tones is taken from: the parts before it, or all of the frame. */
  const before = $derived.by(() => {
    const shape = chosenArea(bench)?.shape;
    if (!shape || part?.kind !== 'light') return null;
    const parts = shape.parts.slice(0, shape.parts.indexOf(part));
    return { ...shape, parts, invert: parts.length === 0, limited: false, radius: 0 };
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
  {#if part?.kind === 'light' && before}
    <ToneRange
      {sheet}
      shape={before}
      range={{ low: part.low, high: part.high, fade: part.feather }}
      change={(own, moving) => changePart(bench, part.id, own, moving)}
    />
  {/if}
  {#if within.length > 0}
    {#each names as name (name)}
      <SettingControl {bench} step="areas" {name} {within} idle={off} />
    {/each}
  {/if}
  {#if part?.kind === 'gradient'}
    <Button
      color="light"
      class="mt-1 h-6"
      disabled={off !== null}
      {...hint(
        'Another area on the other side of the line where this one is gone: it lightens where this one darkens'
      )}
      onclick={() => addCounterpart(bench, part as PartOf<'gradient'>)}>Counterpart</Button
    >
  {/if}
  <p class="quiet text-sm">{told}</p>
</section>
