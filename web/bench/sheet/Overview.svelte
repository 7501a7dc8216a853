<!-- The whole frame, small, in a corner of the zoomed sheet: it shows what is seen, and moves it. -->
<script lang="ts">
  import type { Point } from '$core/math/frame-geometry.ts';
  import type { View } from '$core/picture/tile/mesh.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from './sheet-state.svelte.ts';
  import { boxOnSheet, toUpright, viewAbout } from './sheet-view.ts';

  let { bench, sheet }: { bench: Bench; sheet: SheetState } = $props();
  const MOST = 150;
  const view = $derived.by<View>(() => {
    const { x, y, width, height } = sheet.area;
    const pixel = Math.max(width, height) / MOST;
    return viewAbout([x, y], pixel, { width: Math.round(width / pixel), height: Math.round(height / pixel) });
  });
  let canvas = $state<HTMLCanvasElement>();
  const seen = $derived.by(() => {
    const { left, top, pixel, width, height } = sheet.view;
    const area = { width: pixel * width, height: pixel * height };
    return boxOnSheet({ x: left + area.width / 2, y: top + area.height / 2, ...area }, view);
  });

  $effect(() => {
    void [bench.inputs.stages, sheet.opened];
    if (bench.view.moving) return;
    void sheet.drawAside('overview', $state.snapshot(view) as View).then((picture) => {
      if (!picture || !canvas) return;
      canvas.width = picture.width;
      canvas.height = picture.height;
      canvas.getContext('2d')!.drawImage(picture, 0, 0);
    });
  });

  function look(event: PointerEvent): void {
    if (event.buttons !== 1) return;
    event.stopPropagation();
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const place: Point = [event.clientX - box.left, event.clientY - box.top];
    sheet.moveTo(toUpright(place, view));
  }
</script>

<div
  class="absolute right-2.5 bottom-2.5 cursor-move overflow-hidden border border-[#111] bg-[#888] outline outline-white"
  style:width={`${view.width + 2}px`}
  style:height={`${view.height + 2}px`}
  role="presentation"
  data-testid="overview"
  onpointerdown={(event) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    look(event);
  }}
  onpointermove={look}
>
  <canvas bind:this={canvas} width={view.width} height={view.height}></canvas>
  <svg class="absolute inset-0 h-full w-full" aria-hidden="true">
    <rect
      x={seen.left}
      y={seen.top}
      width={seen.width}
      height={seen.height}
      fill="none"
      stroke="#111"
      stroke-width="3"
      opacity="0.6"
    />
    <rect x={seen.left} y={seen.top} width={seen.width} height={seen.height} fill="none" stroke="#fff" />
  </svg>
</div>
