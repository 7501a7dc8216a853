<!-- Cast: what nearly grey places have of colour, by zones, found and taken away. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
  }
  let { bench, sheet, off }: Props = $props();
  const found = $derived(bench.recipe.colour.castFound);
  const ZONES = ['shadows', 'middle', 'highlights'] as const;
  const none = $derived(ZONES.every((name) => found[name].a === 0 && found[name].b === 0));

  async function find(): Promise<void> {
    const castFound = await sheet.preview?.ask<'cast'>({ kind: 'cast', matrix: bench.linear });
    if (!castFound) return;
    const { cast } = bench.recipe.colour;
    bench.change('colour', { castFound, cast: cast === 0 ? 100 : cast, enabled: true });
  }
  /** Patches of grey with the cast on them, strengthened so that it is seen. */
  const patch = (name: (typeof ZONES)[number]): string => {
    const light = { shadows: 0.35, middle: 0.6, highlights: 0.88 }[name];
    return `oklab(${light} ${found[name].a * 2} ${found[name].b * 2})`;
  };
</script>

<section class="column" aria-label="Cast">
  <div class="flex gap-1.25 pb-1.5">
    <Button
      disabled={off !== null}
      {...hint('Looks for what nearly grey places have of colour, in shadows, middle and highlights')}
      onclick={() => void find()}>Find the casts</Button
    >
  </div>
  <SettingControl
    {bench}
    step="colour"
    name="cast"
    idle={off ?? (none ? 'No cast is known yet: find the casts first.' : null)}
  />
</section>
<section class="column" aria-label="Casts found">
  {#if none}
    <p class="quiet text-sm leading-[1.4]">
      White rooms take colour from a lawn outside, and lamps mix with daylight. The cast of each zone is found
      from what is nearly grey, and taken away with an amount.
    </p>
  {:else}
    <div class="flex gap-3">
      {#each ZONES as name (name)}
        <figure class="w-24">
          <div class="h-9 border border-line" style:background={patch(name)}></div>
          <figcaption class="pt-1 text-xs">
            {name}
            {(Math.hypot(found[name].a, found[name].b) * 100).toFixed(1)}
          </figcaption>
        </figure>
      {/each}
    </div>
    <p class="quiet pt-1.5 text-xs">The patches show the casts at twice their strength.</p>
  {/if}
</section>
