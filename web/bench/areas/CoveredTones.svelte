<!-- How much of what an area covers is as light as what, from dark to light, with the ends of a range over it. -->
<script lang="ts">
  interface Props {
    counts: readonly number[];
    /** Ends of a range, in shares of the width. */
    ends: readonly [number, number];
    /** How far the range fades beyond its ends, in shares of the width. */
    fade?: number;
    /** Moves an end to a place; without it the range is only shown. */
    move?: (end: 0 | 1, to: number, moving: boolean) => void;
  }
  let { counts, ends, fade = 0, move }: Props = $props();
  const [WIDTH, HEIGHT] = [160, 34];
  let plot: SVGSVGElement;
  let held: 0 | 1 | null = null;
  /** The outermost counts hold all that lies beyond, and do not flatten the rest. */
  const most = $derived(Math.max(1e-6, ...counts.slice(1, -1)));
  const hills = $derived(
    counts.map(
      (count, i) =>
        `${((WIDTH * i) / (counts.length - 1)).toFixed(1)} ${(HEIGHT - (HEIGHT - 3) * Math.min(1, Math.sqrt(count / most))).toFixed(1)}`
    )
  );
  const [low, high] = $derived(ends[0] <= ends[1] ? ends : [ends[1], ends[0]]);
  const at = (share: number): number => WIDTH * Math.min(1.5, Math.max(-0.5, share));
  const placeOf = (event: PointerEvent): number => {
    const box = plot.getBoundingClientRect();
    return Math.min(1, Math.max(0, (event.clientX - box.left) / box.width));
  };
  function down(event: PointerEvent): void {
    if (!move || event.button !== 0) return;
    const place = placeOf(event);
    held = Math.abs(place - ends[0]) <= Math.abs(place - ends[1]) ? 0 : 1;
    plot.setPointerCapture(event.pointerId);
    move(held, place, true);
  }
  function go(event: PointerEvent): void {
    if (held !== null) move?.(held, placeOf(event), true);
  }
  function up(event: PointerEvent): void {
    if (held !== null) move?.(held, placeOf(event), false);
    held = null;
  }
</script>

<svg
  class={['block h-8.5 w-full flex-none border border-line bg-panel', move && 'cursor-ew-resize touch-none']}
  viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
  preserveAspectRatio="none"
  role="img"
  aria-label="Tones of what is covered, and the range that is meant"
  data-testid="covered-tones"
  bind:this={plot}
  onpointerdown={down}
  onpointermove={go}
  onpointerup={up}
>
  {#if hills.length > 1}
    <path d={`M0 ${HEIGHT}L${hills.join('L')}L${WIDTH} ${HEIGHT}Z`} fill="var(--faint)" opacity="0.55" />
  {/if}
  <path
    d={`M${at(low - fade)} ${HEIGHT - 1}L${at(low)} 2H${at(high)}L${at(high + fade)} ${HEIGHT - 1}`}
    fill="none"
    stroke="var(--accent)"
    stroke-width="1.5"
    vector-effect="non-scaling-stroke"
  />
  {#each ends as end, i (i)}
    <path
      d={`M${at(end)} 0V${HEIGHT}`}
      stroke="var(--ink)"
      stroke-width="1.2"
      stroke-dasharray="3 2"
      vector-effect="non-scaling-stroke"
    />
  {/each}
</svg>
