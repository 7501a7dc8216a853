<!-- The Lines step: its pages. -->
<script lang="ts">
  import DeckPages from '../controls/DeckPages.svelte';
  import type { LinesToolState } from './lines-tool.svelte.ts';
  import LinesByHand from './LinesByHand.svelte';
  import LinesLengths from './LinesLengths.svelte';
  import LinesMarks from './LinesMarks.svelte';
  import LinesResiduals from './LinesResiduals.svelte';
  import type { DeckProps } from '../parts/step-parts.ts';
  import { type LinesPage, type LinesTool, linesView } from './lines-view.svelte.ts';

  let { bench, sheet, tool, job, ready }: DeckProps<LinesToolState> = $props();
  const mine = $derived(linesView(bench));
  const PAGES: { page: LinesPage; label: string }[] = [
    { page: 'marks', label: 'True up' },
    { page: 'hand', label: 'By hand' },
    { page: 'lengths', label: 'Lengths' },
    { page: 'residuals', label: 'Residuals' }
  ];
  /** The tool that each page begins with. */
  const FIRST: Record<LinesPage, LinesTool> = {
    marks: 'plumb',
    hand: 'edge',
    lengths: 'length',
    residuals: 'choose'
  };
  const off = $derived(bench.recipe.lines.enabled ? null : 'The Lines step is switched off.');

  function turnTo(page: LinesPage): void {
    mine.page = page;
    mine.tool = FIRST[page];
    mine.said = '';
    tool.drop();
  }
</script>

<DeckPages label="Lines pages" pages={PAGES} current={mine.page} {turnTo} />
{#if mine.page === 'marks'}
  <LinesMarks {bench} {sheet} {off} />
{:else if mine.page === 'hand'}
  <LinesByHand {bench} {job} {ready} {off} />
{:else if mine.page === 'lengths'}
  <LinesLengths {bench} {off} />
{:else}
  <LinesResiduals {bench} />
{/if}
