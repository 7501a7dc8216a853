<script lang="ts">
  import { linesSchema } from '$core/recipe/schema.ts';
  import { placeMarks } from '$core/readings/measure.ts';
  import { angleFromTrue } from '$core/lines/line-angles.ts';
  import NumberControl from './NumberControl.svelte';
  import type { Bench } from './bench-state.svelte.ts';

  import type Sheet from './Sheet.svelte';

  let { bench, sheet }: { bench: Bench; sheet: Sheet } = $props();
  const settings = linesSchema.properties;
  const lines = $derived(bench.recipe.lines);
  const placed = $derived(placeMarks(lines.marks, bench.plan));
  const idle = $derived(lines.enabled ? null : 'The Lines step is switched off.');
  const turned = $derived(lines.roll !== 0 || lines.pitch !== 0 || lines.yaw !== 0);
  /** The sliders cover what photographs need; larger angles can be typed. */
  const FINE = { roll: [-10, 10], pitch: [-30, 30], yaw: [-45, 45] } as const;

  const remove = (id: string): void => {
    bench.change('lines', { marks: lines.marks.filter((mark) => mark.id !== id) });
    bench.view.litMark = null;
  };
</script>

<section class="column" aria-label="Marks">
  <h2>Marks</h2>
  <div class="tools">
    <button
      class="tool"
      aria-pressed={bench.view.tool === 'plumb'}
      onclick={() => (bench.view.tool = 'plumb')}
    >
      <svg width="9" height="14" viewBox="0 0 9 14"
        ><path d="M4.5 0v9" stroke="currentColor" stroke-width="1.5" /><path
          d="M4.5 14L1 8h7z"
          fill="currentColor"
        /></svg
      >
      Plumb
    </button>
    <button
      class="tool"
      aria-pressed={bench.view.tool === 'level'}
      onclick={() => (bench.view.tool = 'level')}
    >
      <svg width="15" height="8" viewBox="0 0 15 8"
        ><path d="M0 4h10" stroke="currentColor" stroke-width="1.5" /><circle
          cx="11.5"
          cy="4"
          r="3.2"
          fill="currentColor"
        /></svg
      >
      Level
    </button>
    <button
      class="tool"
      disabled={lines.marks.length === 0}
      onclick={() => bench.change('lines', { marks: [] })}>Clear</button
    >
  </div>
  {#if placed.length === 0}
    <p class="quiet">Draw along two edges that should be plumb, one on each side.</p>
  {:else}
    <ul class="marks">
      {#each placed as mark, i (mark.id)}
        <li
          onpointerenter={() => (bench.view.litMark = mark.id)}
          onpointerleave={() => (bench.view.litMark = null)}
        >
          <span>{i + 1} {mark.kind}</span>
          <span class="angle">{(Math.round(angleFromTrue(mark) * 100) / 100 || 0).toFixed(2)}°</span>
          <button aria-label={`Remove mark ${i + 1}`} title="Remove" onclick={() => remove(mark.id)}>×</button
          >
        </li>
      {/each}
    </ul>
  {/if}
</section>
<section class="column narrow" aria-label="True up">
  <h2>True up</h2>
  <div class="tools">
    <button
      class="tool main"
      disabled={idle !== null || bench.view.finding}
      title="Find plumb lines and true up from them"
      onclick={() => sheet.trueUpItself()}>By itself</button
    >
    <select class="choice" aria-label="What becomes true" bind:value={bench.view.mode}>
      <option value="verticals">verticals</option>
      <option value="front">whole front</option>
    </select>
  </div>
  <div class="tools">
    <button
      class="tool"
      disabled={lines.marks.length === 0 || idle !== null}
      title={lines.marks.length === 0 ? 'Draw lines first' : 'Solve the correction from the marks'}
      onclick={() => bench.trueUp()}>From marks</button
    >
    <button
      class="tool"
      disabled={!turned}
      onclick={() => bench.change('lines', { roll: 0, pitch: 0, yaw: 0, holdBack: 0 })}>Undo turn</button
    >
  </div>
  <p class="said" role="status">
    {#if bench.view.finding}
      Looking for lines…
    {:else if bench.view.foundSaid}
      {bench.view.foundSaid}
    {:else if bench.view.solution && !bench.view.solution.ok}
      {bench.view.solution.reason}
    {:else if bench.view.solution?.ok}
      Solved {bench.view.solution.solved.join(', ')}.
      {bench.view.solution.notices.join(' ')}
    {/if}
  </p>
</section>
<section class="column" aria-label="By hand">
  <h2>By hand</h2>
  {#each ['roll', 'pitch', 'yaw'] as const as name (name)}
    <NumberControl
      setting={settings[name]}
      value={lines[name]}
      range={[...FINE[name]]}
      {idle}
      change={(value, moving) => bench.change('lines', { [name]: value }, moving)}
    />
  {/each}
  <NumberControl
    setting={settings.holdBack}
    value={lines.holdBack}
    idle={idle ?? (turned ? null : 'There is no correction to hold back yet.')}
    change={(holdBack, moving) => bench.change('lines', { holdBack }, moving)}
  />
</section>

<style>
  .tools {
    display: flex;
    gap: 6px;
    margin-bottom: 6px;
  }
  .narrow {
    flex: 0 1 250px;
  }
  .marks {
    display: grid;
    grid-template-columns: repeat(2, minmax(0, 1fr));
    column-gap: 14px;
    max-height: 72px;
    overflow-y: auto;
  }
  .marks li {
    display: flex;
    align-items: center;
    gap: 6px;
    height: 18px;
    font-size: 12px;
  }
  .marks li:hover {
    background: var(--soft);
  }
  .angle {
    margin-left: auto;
  }
  .said {
    font-size: 12px;
    line-height: 1.35;
    max-height: 66px;
    overflow-y: auto;
  }
</style>
