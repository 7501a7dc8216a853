<!-- What the picture is compared with, and how. -->
<script lang="ts">
  import { Radio, Select } from 'flowbite-svelte';
  import { completeRecipe } from '$core/recipe/recipe.ts';
  import { EVERY_STEP, stepLabel } from '$core/recipe/steps.ts';
  import { touchedOf } from '$core/recipe/switched-off.ts';
  import { switchesOf } from '$core/recipe/switches.ts';
  import { call } from '$lib/call.ts';
  import type { Partner } from '$server/hand-over/partners.ts';
  import type { Revision } from '$server/recipes/revisions.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import BandPopover from '../../lib/BandPopover.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { Against, Compare, CompareWay } from './compare-state.svelte.ts';

  interface Props {
    bench: Bench;
    compare: Compare;
    frames: readonly { id: string; name: string }[];
    /** Frames that came back of this one, or the one that it came back of. */
    partners: readonly Partner[];
  }
  let { bench, compare, frames, partners }: Props = $props();
  let open = $state(false);
  let revisions = $state.raw<Revision[]>([]);
  let said = $state('');
  $effect(() => {
    if (!open) return;
    call<Revision[]>(`/api/frames/${bench.frame.id}/revisions`).then(
      (found) => {
        revisions = found;
        said = '';
      },
      (reason: Error) => (said = reason.message)
    );
  });
  const others = $derived(frames.filter(({ id }) => id !== bench.frame.id));

  const WAYS: { way: CompareWay | null; label: string; told: string }[] = [
    { way: null, label: 'Off', told: 'The picture alone' },
    { way: 'wipe', label: 'Wipe', told: 'Two states side by side across one picture (W)' },
    { way: 'beside', label: 'Side by side', told: 'Two pictures that are moved and enlarged together (M)' },
    { way: 'change', label: 'What changed', told: 'The difference of both, in ΔE (Shift+M)' }
  ];
  const PLAIN: { kind: 'shot' | 'opened' | 'without'; label: string }[] = [
    { kind: 'shot', label: 'As shot' },
    { kind: 'opened', label: 'As it was when opened' },
    { kind: 'without', label: 'Without the step in hand' }
  ];
  const chosen = $derived(compare.against.kind === 'revision' ? compare.against.letter : '');
  const frame = $derived(compare.against.kind === 'frame' ? compare.against.id : '');
  function take(against: Against): void {
    compare.against = against;
    if (compare.way === null) compare.turn('wipe');
  }
  function takeRevision(letter: string): void {
    const found = revisions.find((each) => each.letter === letter);
    if (found) take({ kind: 'revision', letter, recipe: completeRecipe(found.recipe) });
  }
  /** Groups of settings in which something is set. */
  const groups = $derived(
    EVERY_STEP.flatMap(({ name, carries }) =>
      carries.groups.flatMap((group) => {
        const names = touchedOf(bench.recipe, switchesOf(name, [group.name]));
        return names.length === 0
          ? []
          : [
              {
                value: `${name}.${group.name}`,
                name: `${stepLabel(name)}: ${group.label.toLowerCase()}`,
                names
              }
            ];
      })
    )
  );
  const group = $derived(compare.against.kind === 'off' ? compare.against.label : '');
  function takeGroup(value: string): void {
    const found = groups.find((each) => each.value === value);
    if (found) take({ kind: 'off', names: found.names, label: value });
  }
  function takeFrame(id: string): void {
    const found = others.find((each) => each.id === id);
    if (found) take({ kind: 'frame', id, name: found.name });
  }
</script>

<BandPopover
  text="Compare"
  told="Compares the picture with another state of it, or with another frame (W, M)"
  label="Compare"
  width="w-72"
  pressed={compare.way !== null}
  bind:open
>
  <h2 class="text-sm">How</h2>
  <div class="grid grid-cols-2 gap-x-2 gap-y-1">
    {#each WAYS as { way, label, told } (label)}
      <Radio
        name="compare-way"
        value={way ?? 'off'}
        group={compare.way ?? 'off'}
        onchange={() => compare.way !== way && compare.turn(way)}
        {...hint(told)}>{label}</Radio
      >
    {/each}
  </div>
  <h2 class="pt-1.5 text-sm">With</h2>
  {#each PLAIN as { kind, label } (kind)}
    <Radio name="compare-with" value={kind} group={compare.against.kind} onchange={() => take({ kind })}
      >{label}</Radio
    >
  {/each}
  {#each partners as { id, name, is } (id)}
    <Radio
      name="compare-with"
      value={id}
      group={compare.against.kind === 'frame' ? compare.against.id : ''}
      onchange={() => take({ kind: 'frame', id, name })}
      {...hint(`The frame ${name}`)}>{is === 'back' ? 'As it came back' : 'As it was handed over'}</Radio
    >
  {/each}
  <Select
    size="sm"
    aria-label="Compare with the picture without a group of settings"
    placeholder={groups.length === 0 ? 'Nothing is set yet' : 'Without some settings…'}
    disabled={groups.length === 0}
    items={groups.map(({ value, name }) => ({ value, name }))}
    bind:value={() => group, takeGroup}
  />
  <Select
    size="sm"
    aria-label="Compare with a revision"
    placeholder={revisions.length === 0 ? 'No revision is kept yet' : 'A revision…'}
    disabled={revisions.length === 0}
    items={revisions.map(({ letter, name }) => ({
      value: letter,
      name: `Revision ${letter}${name ? ` · ${name}` : ''}`
    }))}
    bind:value={() => chosen, takeRevision}
  />
  <Select
    size="sm"
    aria-label="Compare with another frame"
    placeholder={others.length === 0 ? 'No other frame in this job' : 'Another frame…'}
    disabled={others.length === 0}
    items={others.map(({ id, name }) => ({ value: id, name }))}
    bind:value={() => frame, takeFrame}
  />
  {#if said}<p role="status">{said}</p>{/if}
</BandPopover>
