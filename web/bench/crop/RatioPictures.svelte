<!-- The frame in every ratio of its job, small and live. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { viewAbout } from '../sheet/sheet-view.ts';
  import { roomInHand } from '../room/room-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { ratioCrops } from './crop-view.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    ratios: readonly string[];
    choose: (ratio: string) => void;
    /** Takes a ratio off the list; null when it is the last. */
    drop: ((ratio: string) => void) | null;
  }
  let { bench, sheet, ratios, choose, drop }: Props = $props();

  /** Size of the picture that all the small ones are cut from, and largest of one of them. */
  const WHOLE = { width: 420, height: 300 };
  const room = roomInHand();
  const MOST = $derived(room.beside ? { width: 92, height: 72 } : { width: 128, height: 104 });
  const crops = $derived(ratioCrops(bench, ratios));
  const shown = $derived(
    crops.some(({ ratio }) => ratio === bench.recipe.crop.ratio)
      ? crops
      : [...crops, ...ratioCrops(bench, [bench.recipe.crop.ratio])]
  );
  /** Known before a picture is there, so that nothing moves when it comes. */
  function pixelsOf({ crop }: (typeof crops)[number]): { width: number; height: number } {
    const scale = Math.min(MOST.width / crop.width, MOST.height / crop.height);
    return {
      width: Math.max(8, Math.round(crop.width * scale)),
      height: Math.max(8, Math.round(crop.height * scale))
    };
  }
  const canvases: Record<string, HTMLCanvasElement> = $state({});

  const bounds = $derived.by(() => {
    const left = Math.min(...shown.map(({ crop }) => crop.x - crop.width / 2));
    const right = Math.max(...shown.map(({ crop }) => crop.x + crop.width / 2));
    const top = Math.min(...shown.map(({ crop }) => crop.y - crop.height / 2));
    const bottom = Math.max(...shown.map(({ crop }) => crop.y + crop.height / 2));
    const pixel = Math.max((right - left) / WHOLE.width, (bottom - top) / WHOLE.height);
    return viewAbout([(left + right) / 2, (top + bottom) / 2], pixel, WHOLE);
  });

  $effect(() => {
    const view = bounds;
    const crops = shown;
    void sheet.drawAside('small', $state.snapshot(view) as typeof view).then((picture) => {
      if (!picture) return;
      for (const one of crops) {
        const { ratio, crop } = one;
        const canvas = canvases[ratio];
        if (!canvas) continue;
        Object.assign(canvas, pixelsOf(one));
        const [x, y] = [
          (crop.x - crop.width / 2 - view.left) / view.pixel,
          (crop.y - crop.height / 2 - view.top) / view.pixel
        ];
        canvas
          .getContext('2d')!
          .drawImage(
            picture,
            x,
            y,
            crop.width / view.pixel,
            crop.height / view.pixel,
            0,
            0,
            canvas.width,
            canvas.height
          );
        canvas.dataset.drawn = String(Number(canvas.dataset.drawn ?? 0) + 1);
      }
    });
  });
</script>

<ul class="flex items-end gap-0.5 beside:flex-wrap">
  {#each shown as one (one.ratio)}
    {@const { ratio, own } = one}
    {@const { width, height } = pixelsOf(one)}
    <li class="relative">
      <Button
        color="alternative"
        class="ghost pick flex flex-col items-center justify-end! h-35 beside:h-26 py-1.25 px-1 border border-transparent text-sm whitespace-nowrap hover:border-line! aria-pressed:border-accent! aria-pressed:bg-panel! aria-pressed:font-semibold aria-pressed:text-ink"
        aria-pressed={bench.recipe.crop.ratio === ratio}
        onclick={() => choose(ratio)}
      >
        <canvas
          class="mb-1"
          bind:this={canvases[ratio]}
          style:width={`${width}px`}
          style:height={`${height}px`}
        ></canvas>
        <span>{ratio}{own ? ' · alone' : ''}</span>
      </Button>
      {#if drop && ratios.includes(ratio) && bench.recipe.crop.ratio !== ratio}
        <Button
          color="alternative"
          class="ghost absolute right-0 bottom-0.5 h-6 w-6 border-0 p-0 text-faint"
          aria-label={`Take ${ratio} off the job's ratios`}
          onclick={() => drop(ratio)}>×</Button
        >
      {/if}
    </li>
  {/each}
</ul>
