<!-- Bows by hand, and from edges of the picture that should be straight. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { halfDiagonal } from '$core/math/frame-geometry.ts';
  import { NO_DISTORTION, foldRadius } from '$core/optics/lens-model.ts';
  import { straightness } from '$core/render/readings/straightness.ts';
  import { FULL_FRAME_HALF_DIAGONAL } from '$core/optics/focal-length.ts';
  import { call } from '$lib/call.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { type LensToolState, offerCurves } from './lens-tool.svelte.ts';
  import { addCurves, straightenMarked } from './straighten.ts';
  import { lensView } from './lens-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    tool: LensToolState;
    off: string | null;
  }
  let { bench, sheet, tool, off }: Props = $props();
  const mine = $derived(lensView(bench));
  const own = $derived(mine);
  const lens = $derived(bench.recipe.lens);
  const model = $derived(bench.plan.projection.model);
  const fold = $derived(foldRadius(model, model.amount));
  const before = $derived(straightness(lens.curves, { ...bench.plan.projection, model: NO_DISTORTION }));
  const rows = $derived(
    (bench.readings.straight?.curves ?? []).map((curve) => ({
      ...curve,
      before: before?.curves.find((other) => other.id === curve.id)?.rms ?? 0
    }))
  );

  const remove = (id: string): void => {
    bench.change('lens', { curves: lens.curves.filter((curve) => curve.id !== id) });
    bench.view.lit = null;
  };

  function takeAll(): void {
    const points = own.offered.map((curve) => curve.points);
    own.offered = [];
    addCurves(bench, points);
  }

  /** The distortion solved here becomes a profile of the catalogue for this lens and focal length. */
  async function store(): Promise<void> {
    const { facts } = bench;
    const focalLength = lens.focalLength ?? facts.focalLength;
    if (!lens.solved || !focalLength) return;
    try {
      const stored = await call<{ lens: string }>('/api/lenses/measured', {
        method: 'PUT',
        body: {
          id: 'new',
          maker: facts.lensMaker ?? facts.make ?? '',
          lens: facts.lens ?? `Lens of ${focalLength} mm on ${facts.model ?? 'an unnamed camera'}`,
          sensorHalfDiagonal: facts.sensorHalfDiagonal ?? FULL_FRAME_HALF_DIAGONAL,
          projection: lens.solved.projection,
          distortion: [{ focalLength, terms: lens.solved.terms, centre: lens.solved.centre }],
          note: `Solved from ${rows.length} edges of ${bench.frame.name}; ${bench.readings.straight?.rms.toFixed(2)} px left at half a diagonal of ${halfDiagonal(bench.optics.size).toFixed(0)} px.`
        }
      });
      own.said = `Stored in the catalogue: ${stored.lens}, ${focalLength} mm.`;
    } catch (reason) {
      own.said = (reason as Error).message;
    }
  }
  const storable = $derived(lens.solved !== null && (lens.focalLength ?? bench.facts.focalLength) !== null);
</script>

<section class="column" aria-label="By hand">
  <h2>By hand</h2>
  <SettingControl {bench} step="lens" name="bow" idle={off} />
  <SettingControl {bench} step="lens" name="wave" idle={off} />
  <p class="quiet text-sm leading-[1.35]">
    {#if fold !== null}
      <strong class="text-accent"
        >Folds back at {(fold * 100).toFixed(0)} % of the way to the corner: lower bow or wave.</strong
      >
    {:else if lens.solved}
      On top of what was solved from the picture.
    {:else}
      Below zero the lens bows outwards (barrel), above inwards (pincushion).
    {/if}
  </p>
</section>
<section class="column" style:flex="1.25 1 370px" aria-label="From the picture">
  <h2>From the picture</h2>
  <div class="flex gap-1.5 mb-1.25">
    <Button
      color="light"
      disabled={off !== null}
      aria-pressed={own.tool === 'curve'}
      {...hint('Press along an edge that should be straight; press twice or Enter to end')}
      onclick={() => {
        if (own.tool === 'curve') tool.drop();
        own.tool = own.tool === 'curve' ? 'none' : 'curve';
      }}
    >
      <svg width="15" height="10" viewBox="0 0 15 10" fill="none" stroke="currentColor" stroke-width="1.4"
        ><path d="M3 8Q8 1 12 8" /><path d="M.8 6.6h3v3h-3zM11.2 6.6h3v3h-3z" fill="currentColor" /></svg
      >
      Draw edge
    </Button>
    <Button
      {...hint('Looks for long straight edges and offers them')}
      color="light"
      disabled={off !== null}
      onclick={() => offerCurves(bench, sheet)}>Find edges</Button
    >
    <Button
      disabled={off !== null || lens.curves.length === 0}
      {...hint(lens.curves.length === 0 ? 'Mark edges first' : 'Solve the distortion from the marked edges')}
      onclick={() => straightenMarked(bench)}>Straighten</Button
    >
  </div>
  <div class="flex gap-1.5 mb-1.25">
    {#if own.offered.length > 0}
      <Button color="light" onclick={takeAll}>Take all {own.offered.length}</Button>
      <Button color="light" onclick={() => (own.offered = [])}>Drop the rest</Button>
    {:else}
      <Button
        {...hint('Takes all marked edges away')}
        color="light"
        disabled={lens.curves.length === 0}
        onclick={() => bench.change('lens', { curves: [] })}>Clear</Button
      >
      <Button
        {...hint('Takes back what was solved from the edges')}
        color="light"
        disabled={lens.solved === null}
        onclick={() => bench.change('lens', { solved: null })}>Undo bend</Button
      >
      <Button
        color="light"
        disabled={!storable}
        {...hint(
          storable
            ? 'Keep the solved distortion as a profile of the catalogue'
            : 'Straighten first, and give the focal length on the Profile page when the file has none'
        )}
        onclick={store}>Store as profile</Button
      >
    {/if}
  </div>
  <p class="said text-sm leading-[1.35] max-h-8.5 overflow-y-auto" role="status">
    {own.said ||
      (own.tool === 'curve'
        ? 'Press along an edge that should be straight; press twice at its end, or Enter.'
        : '')}
  </p>
</section>
<section class="column" aria-label="Edges">
  <h2>
    Straight, px {#if rows.length > 0}<span class="quiet">before → now</span>{/if}
  </h2>
  {#if rows.length === 0}
    <p class="quiet text-sm leading-[1.35]">
      No edges are marked yet. Six long ones near the sides and corners tell most.
    </p>
  {:else}
    <ul class="marks grid grid-cols-2 gap-x-3.5 max-h-27 overflow-y-auto">
      {#each rows as row, i (row.id)}
        <li onpointerenter={() => (bench.view.lit = row.id)} onpointerleave={() => (bench.view.lit = null)}>
          <span>{i + 1}</span>
          <span class="ml-auto">{row.before.toFixed(1)} → {row.rms.toFixed(2)}</span>
          <Button
            color="alternative"
            class="ghost h-6 w-6 flex-none border-0 p-0"
            aria-label={`Remove edge ${i + 1}`}
            {...hint('Remove')}
            onclick={() => remove(row.id)}>×</Button
          >
        </li>
      {/each}
    </ul>
  {/if}
</section>

<style>
  .marks li {
    display: flex;
    gap: 6px;
    height: 24px;
    font-size: 12px;
  }
  .marks li:hover {
    background: var(--soft);
  }
</style>
