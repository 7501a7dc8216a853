<!-- The index: the job's frames as a strip above the sheet, or a column at its far side. Only what is seen of it is in the page. -->
<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { Button } from 'flowbite-svelte';
  import { hearEvents } from '$lib/hear-events.ts';
  import type { IndexRow } from '$server/set/index-row.ts';

  import type { IndexPlace } from './room/share-room.ts';
  import { CHOICE_SHAPES } from './state/choices.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Props {
    job: string;
    current: string;
    open: (frame: string) => void;
    /** What the frame in hand is in its job, whenever that is told. */
    told: (row: IndexRow) => void;
    place: IndexPlace;
  }
  let { job, current, open, told, place }: Props = $props();
  const aside = $derived(place === 'aside');
  /** Length of one frame along the strip. */
  const LONG = $derived(aside ? 64 : 100);
  const BEYOND = 3;
  /** Milliseconds without a change after which the picture of the frame in hand is made anew. */
  const AT_REST = 4000;

  let rows = $state.raw<IndexRow[]>([]);
  let strip: HTMLDivElement;
  let scrolled = $state(0);
  let width = $state(1200);
  let height = $state(600);
  const seen = $derived(aside ? height : width);
  /** The version of the frame in hand whose picture is shown: while it is worked on, none is asked for. */
  let pictured = $state<number | null>(null);
  let rests: ReturnType<typeof setTimeout> | undefined;
  const first = $derived(Math.max(0, Math.floor(scrolled / LONG) - BEYOND));
  const shown = $derived(rows.slice(first, first + Math.ceil(seen / LONG) + 2 * BEYOND));

  onMount(() =>
    hearEvents<{ rows: IndexRow[]; all: boolean }>(
      `/api/jobs/${job}/index`,
      (news) => {
        const changed = new Map(news.rows.map((row) => [row.id, row]));
        const begin = rows.length === 0;
        rows = news.all ? news.rows : rows.map((row) => changed.get(row.id) ?? row);
        const own = changed.get(current);
        if (own) {
          told(own);
          pictured ??= own.version;
          clearTimeout(rests);
          rests = setTimeout(() => (pictured = own.version), AT_REST);
        }
        if (begin) showCurrent();
      },
      () => {}
    )
  );
  const nameText = ({ name }: IndexRow): string => name.replace(/\.[^.]*$/, '');
  const asideText = ({ choice, plumb }: IndexRow): string =>
    [CHOICE_SHAPES[choice], plumb === null ? '' : `${plumb.toFixed(aside ? 1 : 2)}°`]
      .filter(Boolean)
      .join(' ');
  /** What is to be read under the small picture. */
  const shortText = (row: IndexRow): string => [nameText(row), asideText(row)].filter(Boolean).join(' ');
  function showCurrent(): void {
    const at = rows.findIndex(({ id }) => id === current);
    const start = aside ? strip.scrollTop : strip.scrollLeft;
    const length = aside ? strip.clientHeight : strip.clientWidth;
    if (at * LONG >= start && (at + 1) * LONG <= start + length) return;
    strip.scrollTo({ [aside ? 'top' : 'left']: at * LONG - (length - LONG) / 2 });
  }
  $effect(() => {
    void current;
    void place;
    untrack(showCurrent);
  });
</script>

<div
  class={[
    'flex-none border-line bg-paper',
    aside
      ? 'w-23 overflow-x-hidden overflow-y-auto border-l'
      : 'h-16 overflow-x-auto overflow-y-hidden border-b'
  ]}
  role="list"
  aria-label="Index"
  bind:this={strip}
  bind:clientWidth={width}
  bind:clientHeight={height}
  onscroll={() => (scrolled = aside ? strip.scrollTop : strip.scrollLeft)}
  onwheel={(event) => {
    if (aside || event.deltaX !== 0) return;
    event.preventDefault();
    strip.scrollLeft += event.deltaY;
  }}
>
  <div
    class="relative"
    style:width={aside ? '100%' : `${rows.length * LONG}px`}
    style:height={aside ? `${rows.length * LONG}px` : '100%'}
  >
    {#each shown as row, i (row.id)}
      <div
        class={['absolute', aside ? 'left-0 w-full' : 'top-0 h-full']}
        style:left={aside ? undefined : `${(first + i) * LONG}px`}
        style:top={aside ? `${(first + i) * LONG}px` : undefined}
        style:width={aside ? undefined : `${LONG}px`}
        style:height={aside ? `${LONG}px` : undefined}
        role="listitem"
        aria-setsize={rows.length}
        aria-posinset={first + i + 1}
      >
        <Button
          color="alternative"
          class={`ghost relative h-full w-full flex-col justify-center! gap-0 rounded-none border-0 border-b-3 p-0.5 text-xs ${
            row.id === current ? 'border-b-accent! bg-panel! font-semibold' : 'border-b-transparent'
          }`}
          aria-current={row.id === current ? 'true' : undefined}
          aria-label={`${shortText(row)}${row.plumb === null ? '' : ' plumb'}, ${row.choice}`}
          {...hint(row.name)}
          disabled={row.state !== 'ready'}
          onclick={() => open(row.id)}
        >
          <img
            class={`h-9.5 w-20 object-contain ${row.choice === 'left out' ? 'opacity-35' : ''}`}
            src={`/api/frames/${row.id}/thumbnail?v=${row.id === current ? (pictured ?? row.version) : row.version}`}
            alt=""
            loading="lazy"
          />
          <span class={['flex justify-between', aside ? 'w-20' : 'w-23']}>
            <span class="overflow-hidden text-ellipsis">{nameText(row)}</span>
            <span class={row.look ? 'text-accent' : 'text-faint'}>{asideText(row)}</span>
          </span>
        </Button>
      </div>
    {/each}
  </div>
</div>
