<!-- What changed, over the picture: black where nothing did, white where it did by ten ΔE or more. -->
<script lang="ts">
  import type { Point } from '$core/math/frame-geometry.ts';
  import { pictureDifference } from '$core/colour/picture-difference.ts';
  import type { Drawn } from '../../preview/preview.ts';
  import type { ScreenSpace } from '../state/shown-colour.ts';

  interface Props {
    one: Drawn;
    other: Drawn;
    /** By how much the first lies elsewhere in the upright plane. */
    shift: Point;
    /** What is seen of it. */
    clip: string;
    placed: { left: number; top: number; width: number; height: number };
  }
  let { one, other, shift, placed, clip }: Props = $props();
  /** What is as white as can be. */
  const MOST = 10;
  /** Blocks that are compared in a moment. */
  const BLOCKS = 250_000;

  let canvas = $state<HTMLCanvasElement>();
  /** They are of one view, and both at rest: else the last that were are shown. */
  const alike = $derived(
    !one.draft &&
      !other.draft &&
      one.width === other.width &&
      one.height === other.height &&
      one.view.left === other.view.left + shift[0] &&
      one.view.top === other.view.top + shift[1] &&
      one.view.pixel === other.view.pixel
  );
  let found = $state.raw<ReturnType<typeof pictureDifference> | null>(null);
  $effect(() => {
    if (!alike) return;
    const every = Math.max(1, Math.ceil(Math.sqrt((one.width * one.height) / BLOCKS)));
    found = pictureDifference(one, other, one.space as ScreenSpace, every);
  });
  $effect(() => {
    if (!canvas || !found) return;
    const { width, height, values } = found;
    const pixels = new Uint8ClampedArray(4 * width * height);
    values.forEach((value, i) => {
      const grey = Number.isNaN(value) ? 0 : (255 * value) / MOST;
      pixels.fill(grey, 4 * i, 4 * i + 3);
      pixels[4 * i + 3] = Number.isNaN(value) ? 0 : 255;
    });
    canvas.width = width;
    canvas.height = height;
    canvas.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
  });
</script>

<div class="pointer-events-none absolute inset-0" style:clip-path={clip}>
  <canvas
    class="absolute max-w-none"
    bind:this={canvas}
    style:left="{placed.left}px"
    style:top="{placed.top}px"
    style:width="{placed.width}px"
    style:height="{placed.height}px"
    data-testid="difference"
  ></canvas>
</div>
{#if found}
  <p
    class="absolute bottom-2.5 left-2.5 z-1 border border-line bg-panel px-2 py-0.75"
    role="status"
    data-testid="difference-figures"
    data-mean={found.mean.toFixed(3)}
  >
    Mean {found.mean.toFixed(1)} ΔE · 95 % within {found.mostly.toFixed(1)} · most {found.most.toFixed(1)}
    <span class="quiet">— black: nothing changed, white: {MOST} ΔE and more</span>
  </p>
{/if}
