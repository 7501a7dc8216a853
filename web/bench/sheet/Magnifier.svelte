<!-- What lies about a place of the sheet, enlarged, while something is being placed there. -->
<script lang="ts">
  import type { Point } from '$core/math/frame-geometry.ts';
  import { toUpright, viewAbout } from './sheet-view.ts';
  import type { SheetState } from './sheet-state.svelte.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    at: Point;
    canvas: HTMLCanvasElement | undefined;
  }
  let { bench, sheet, at, canvas = $bindable() }: Props = $props();
  const SIZE = 150;
  /** Screen pixels for one pixel of the full-size picture, unless the sheet shows them larger. */
  const MAGNIFICATION = 2;
  const CROSS = 'M75 0V66M75 84V150M0 75H66M84 75H150';

  $effect(() => {
    const pixel = sheet.unit / Math.max(MAGNIFICATION, sheet.zoom * 2);
    sheet.preview?.draw({
      target: 'magnifier',
      stages: bench.shown.stages,
      view: viewAbout(toUpright(at, sheet.view), pixel, { width: SIZE, height: SIZE }),
      draft: false
    });
  });
</script>

<div
  class="pointer-events-none absolute top-2.5 h-37.5 w-37.5 border border-[#111] bg-[#888] outline outline-white"
  class:right-2.5={at[0] < sheet.size.width / 2}
  class:left-2.5={at[0] >= sheet.size.width / 2}
>
  <canvas bind:this={canvas} width={SIZE} height={SIZE}></canvas>
  <svg class="absolute inset-0" width={SIZE} height={SIZE} aria-hidden="true">
    <path d={CROSS} stroke="#111" stroke-width="3" opacity="0.5" />
    <path d={CROSS} stroke="#fff" stroke-width="1" />
  </svg>
</div>
