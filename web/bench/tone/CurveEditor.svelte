<!-- A curve: a press adds a point, a drag moves it, a double press or Delete takes it away; arrows move the one in hand. -->
<script lang="ts">
  import { curvePoints, pointCurve } from '$core/steps/tone/point-curve.ts';
  import type { CurvePoint } from '$core/steps/tone/step.ts';
  import { movedPoint, withPoint } from './curve-hand.ts';

  interface Props {
    label: string;
    points: readonly CurvePoint[];
    disabled: boolean;
    /** Where a tone that is pointed at lies. */
    pointed?: number | null;
    /** How many pixels are as light as each of these, from black to white: drawn behind the curve. */
    counts?: readonly number[];
    /** Pixels of a side. */
    size: number;
    change: (points: CurvePoint[], moving: boolean) => void;
  }
  let { label, points, disabled, pointed = null, counts = [], size, change }: Props = $props();
  const EDGE = 5;
  const span = $derived(size - 2 * EDGE);
  /** A press this near to a point, in pixels, is meant for it. */
  const NEAR = 9;
  const STEP = 0.01;
  let plot: SVGSVGElement;
  let held = $state<number | null>(null);

  const shown = $derived(points.length === 0 ? [] : curvePoints(points));
  const curve = $derived(pointCurve(points));
  const path = $derived(
    Array.from(
      { length: 65 },
      (_, i) => `${EDGE + (span * i) / 64} ${EDGE + span * (1 - curve(i / 64))}`
    ).join('L')
  );
  /** The outermost counts hold what is clipped, and do not flatten the rest. */
  const most = $derived(Math.max(1, ...counts.slice(1, -1)));
  const hills = $derived(
    counts.map(
      (count, i) =>
        `${EDGE + (span * i) / (counts.length - 1)} ${EDGE + span * (1 - Math.min(1, Math.sqrt(count / most)))}`
    )
  );
  const rounded = (value: number): number => Math.round(Math.min(1, Math.max(0, value)) * 1000) / 1000;

  function placeOf(event: PointerEvent | MouseEvent): CurvePoint {
    const box = plot.getBoundingClientRect();
    const scale = size / box.width;
    return {
      x: rounded(((event.clientX - box.left) * scale - EDGE) / span),
      y: rounded(1 - ((event.clientY - box.top) * scale - EDGE) / span)
    };
  }
  const nearest = ({ x, y }: CurvePoint): number =>
    shown.findIndex((point) => Math.hypot(point.x - x, point.y - y) * span < NEAR);

  function down(event: PointerEvent): void {
    if (disabled || event.button !== 0) return;
    const place = placeOf(event);
    plot.setPointerCapture(event.pointerId);
    const found = nearest(place);
    if (found >= 0) held = found;
    else {
      const { shown: all, i } = withPoint(points, place);
      held = i;
      change(all, true);
    }
  }
  function move(event: PointerEvent): void {
    if (held !== null) change(movedPoint(shown, held, placeOf(event)), true);
  }
  function up(): void {
    if (held !== null) change([...shown], false);
    held = null;
  }
  const isEnd = (i: number): boolean => i === 0 || i === shown.length - 1;
  function remove(i: number): void {
    // Ends go back to the corners; without points between them there is no curve.
    const left = isEnd(i)
      ? shown.map((point, n) => (n === i ? { x: i === 0 ? 0 : 1, y: i === 0 ? 0 : 1 } : point))
      : shown.filter((_, n) => n !== i);
    const plain = left.length === 2 && left.every(({ x, y }) => x === y);
    change(plain ? [] : left, false);
  }
  function keydown(event: KeyboardEvent, i: number): void {
    const step = STEP * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
    const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
      event.key
    ] ?? [0, 0];
    if (event.key === 'Delete' || event.key === 'Backspace') remove(i);
    else if (dx !== 0 || dy !== 0)
      change(movedPoint(shown, i, { x: shown[i].x + dx * step, y: shown[i].y + dy * step }), false);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<svg
  class="flex-none touch-none border border-line bg-panel"
  bind:this={plot}
  width={size}
  height={size}
  viewBox={`0 0 ${size} ${size}`}
  role="group"
  aria-label={label}
  data-testid="curve"
  onpointerdown={down}
  onpointermove={move}
  onpointerup={up}
  ondblclick={(event) => {
    const found = nearest(placeOf(event));
    if (found >= 0 && !disabled) remove(found);
  }}
>
  {#each [0.25, 0.5, 0.75] as quarter (quarter)}
    {@const at = EDGE + span * quarter}
    <path d={`M${at} ${EDGE}V${size - EDGE}M${EDGE} ${at}H${size - EDGE}`} stroke="var(--soft)" />
  {/each}
  {#if hills.length > 1}
    <path
      d={`M${EDGE} ${EDGE + span}L${hills.join('L')}L${EDGE + span} ${EDGE + span}Z`}
      fill="var(--soft)"
      data-testid="curve-histogram"
    />
  {/if}
  <path d={`M${EDGE} ${size - EDGE}L${size - EDGE} ${EDGE}`} stroke="var(--line)" stroke-dasharray="3 3" />
  <path d={`M${path}`} fill="none" stroke="var(--ink)" stroke-width="1.5" />
  {#if pointed !== null}
    {@const x = EDGE + span * pointed}
    {@const y = EDGE + span * (1 - curve(pointed))}
    <path d={`M${x} ${size - EDGE}V${y}H${EDGE}`} fill="none" stroke="var(--accent)" stroke-dasharray="2 2" />
  {/if}
  {#each shown as { x, y }, i (i)}
    <rect
      x={EDGE + span * x - 4}
      y={EDGE + span * (1 - y) - 4}
      width="8"
      height="8"
      fill={held === i ? 'var(--accent)' : 'var(--panel)'}
      stroke="var(--ink)"
      stroke-width="1.4"
      role="slider"
      tabindex={disabled ? -1 : 0}
      aria-label={`${label}, point ${i + 1}`}
      aria-valuenow={Math.round(y * 100)}
      aria-valuetext={`${Math.round(x * 100)} % becomes ${Math.round(y * 100)} %`}
      onkeydown={(event) => keydown(event, i)}
    />
  {/each}
</svg>
