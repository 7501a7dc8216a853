<!-- What lies on either side of the line between two pictures. -->
<script lang="ts">
  import type { FrameSize, Point } from '$core/math/frame-geometry.ts';
  import type { Compare } from './compare-state.svelte.ts';
  import { placeOf, waysOf } from './half-plane.ts';

  let { compare, size }: { compare: Compare; size: FrameSize } = $props();
  /** Pixels along the line from its middle, where its handles are not in the way. */
  const UP = 150;
  const EDGE = 14;
  const ways = $derived(waysOf(compare.line));
  /** A place on the line that is seen, near its end. */
  const place = $derived.by((): Point => {
    const [x, y] = placeOf(compare.line, size);
    const { along } = ways;
    const up = y - UP * along[1] > 0 && y - UP * along[1] < size.height ? -UP : UP;
    return [x + up * along[0], y + up * along[1]];
  });
  const kept = (value: number, most: number): number => Math.min(most - EDGE, Math.max(EDGE, value));
  const x = $derived(kept(place[0], size.width));
  const y = $derived(kept(place[1], size.height));
</script>

{#snippet label(text: string, side: 1 | -1, name: string)}
  {@const across = ways.across[0] * side}
  {@const down = ways.across[1] * side}
  <p
    class="pointer-events-none absolute z-1 border border-line bg-panel px-2 py-0.75 whitespace-nowrap"
    style:left="{x + 12 * across}px"
    style:top="{y + 12 * down}px"
    style:transform={`translate(${50 * (across - 1)}%, ${50 * (down - 1)}%)`}
    data-testid={name}
  >
    {text}
  </p>
{/snippet}
{@render label(compare.label, 1, 'other-label')}
{@render label('Now', -1, 'own-label')}
