<!-- The index: the job's frames as a strip above the sheet. Only what is seen of it is in the page. -->
<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { Button } from 'flowbite-svelte';
  import { hearEvents } from '$lib/hear-events.ts';
  import type { IndexRow } from '$server/set/index-row.ts';

  import { CHOICE_SHAPES } from './state/choices.ts';

  interface Props {
    job: string;
    current: string;
    open: (frame: string) => void;
    /** What the frame in hand is in its job, whenever that is told. */
    told: (row: IndexRow) => void;
  }
  let { job, current, open, told }: Props = $props();
  const WIDTH = 88;
  const BEYOND = 3;
  /** Milliseconds without a change after which the picture of the frame in hand is made anew. */
  const AT_REST = 4000;

  let rows = $state.raw<IndexRow[]>([]);
  let strip: HTMLDivElement;
  let scrolled = $state(0);
  let seen = $state(1200);
  /** The version of the frame in hand whose picture is shown: while it is worked on, none is asked for. */
  let pictured = $state<number | null>(null);
  let rests: ReturnType<typeof setTimeout> | undefined;
  const first = $derived(Math.max(0, Math.floor(scrolled / WIDTH) - BEYOND));
  const shown = $derived(rows.slice(first, first + Math.ceil(seen / WIDTH) + 2 * BEYOND));

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
    [CHOICE_SHAPES[choice], plumb === null ? '' : `${plumb.toFixed(2)}°`].filter(Boolean).join(' ');
  /** What is to be read under the small picture. */
  const shortText = (row: IndexRow): string => [nameText(row), asideText(row)].filter(Boolean).join(' ');
  function showCurrent(): void {
    const at = rows.findIndex(({ id }) => id === current);
    const { scrollLeft, clientWidth } = strip;
    if (at * WIDTH < scrollLeft || (at + 1) * WIDTH > scrollLeft + clientWidth)
      strip.scrollLeft = at * WIDTH - (clientWidth - WIDTH) / 2;
  }
  $effect(() => {
    void current;
    untrack(showCurrent);
  });
</script>

<div
  class="h-16 flex-none overflow-x-auto overflow-y-hidden border-b border-b-line bg-paper"
  role="list"
  aria-label="Index"
  bind:this={strip}
  bind:clientWidth={seen}
  onscroll={() => (scrolled = strip.scrollLeft)}
  onwheel={(event) => {
    if (event.deltaX !== 0) return;
    event.preventDefault();
    strip.scrollLeft += event.deltaY;
  }}
>
  <div class="relative h-full" style:width={`${rows.length * WIDTH}px`}>
    {#each shown as row, i (row.id)}
      <div
        class="absolute top-0 h-full"
        style:left={`${(first + i) * WIDTH}px`}
        style:width={`${WIDTH}px`}
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
          title={row.name}
          disabled={row.state !== 'ready'}
          onclick={() => open(row.id)}
        >
          <img
            class={`h-9.5 w-20 object-contain ${row.choice === 'left out' ? 'opacity-35' : ''}`}
            src={`/api/frames/${row.id}/thumbnail?v=${row.id === current ? (pictured ?? row.version) : row.version}`}
            alt=""
            loading="lazy"
          />
          <span class="flex w-20 justify-between">
            <span class="overflow-hidden text-ellipsis">{nameText(row)}</span>
            <span class={row.look ? 'text-accent' : 'text-faint'}>{asideText(row)}</span>
          </span>
        </Button>
      </div>
    {/each}
  </div>
</div>
