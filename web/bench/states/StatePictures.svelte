<!-- States of the frame as small pictures of it, as cropped: pointing at one shows it on the sheet, a press takes it. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { untrack } from 'svelte';
  import type { Recipe } from '$core/recipe/recipe.ts';
  import { roomInHand } from '../room/room-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { viewAbout } from '../sheet/sheet-view.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { FrameState } from './frame-state.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    states: readonly FrameState[];
    chosen: string;
    choose: (id: string) => void;
    /** Why none can be taken now. */
    idle: string | null;
    /** As tall as what it stands in. */
    tall?: boolean;
  }
  let { bench, sheet, states, chosen, choose, idle, tall = false }: Props = $props();
  const room = roomInHand();
  /** Largest of a picture. */
  const MOST = $derived(room.beside ? { width: 96, height: 72 } : { width: 92, height: 62 });
  /** Milliseconds of pointing before the sheet shows a state, and without a change before pictures are drawn anew. */
  const POINTED = 150;
  const AT_REST = 250;

  const aspect = $derived(bench.plan.crop.width / bench.plan.crop.height);
  const size = $derived({
    width: Math.max(8, Math.round(Math.min(MOST.width, MOST.height * aspect))),
    height: Math.max(8, Math.round(Math.min(MOST.height, MOST.width / aspect)))
  });

  let list: HTMLElement;
  const canvases: Record<string, HTMLCanvasElement> = $state({});
  /** What each picture was drawn by, and which are seen. */
  const drawnBy: Record<string, Recipe> = {};
  let seen = $state.raw<readonly string[]>([]);

  $effect(() => {
    const shown = Object.entries(canvases).filter(([, canvas]) => canvas);
    const observer = new IntersectionObserver(
      (entries) => {
        const named = (inside: boolean): string[] =>
          entries
            .filter(({ isIntersecting }) => isIntersecting === inside)
            .map(({ target }) => (target as HTMLElement).dataset.state!);
        const gone = named(false);
        seen = [...untrack(() => seen).filter((id) => !gone.includes(id)), ...named(true)];
      },
      { root: list, rootMargin: '40px' }
    );
    for (const [, canvas] of shown) observer.observe(canvas);
    return () => observer.disconnect();
  });

  /** A round of drawing ends when a newer one begins. */
  let round = 0;
  async function drawSeen(recipe: Recipe): Promise<void> {
    const own = ++round;
    for (const { id, apply } of states) {
      const canvas = canvases[id];
      if (!canvas || !seen.includes(id) || drawnBy[id] === recipe) continue;
      const { stages: all, plan } = bench.inputsOf(apply(recipe));
      // What acts on single pixels of the frame cannot be seen in so small a picture.
      const stages = { ...all, noise: null, sharpening: null, areaDetail: null };
      const { crop } = plan;
      const { width, height } = size;
      const pixel = Math.max(crop.width / width, crop.height / height);
      const picture = await sheet.drawState(viewAbout([crop.x, crop.y], pixel, { width, height }), stages);
      if (own !== round) return;
      if (!picture) continue;
      Object.assign(canvas, { width, height });
      canvas.getContext('2d')!.drawImage(picture, 0, 0, width, height);
      canvas.dataset.drawn = String(Number(canvas.dataset.drawn ?? 0) + 1);
      drawnBy[id] = recipe;
    }
  }
  $effect(() => {
    const { recipe } = bench;
    void [seen, states, size];
    if (bench.view.moving || !sheet.opened) return;
    const timer = setTimeout(() => void drawSeen(recipe), Object.keys(drawnBy).length === 0 ? 0 : AT_REST);
    return () => clearTimeout(timer);
  });

  let pointing: ReturnType<typeof setTimeout> | undefined;
  function point(state: FrameState | null): void {
    clearTimeout(pointing);
    if (state && idle === null) {
      pointing = setTimeout(() => bench.tryOn(state.apply), POINTED);
    } else bench.tryOn(null);
  }
  $effect(() => () => point(null));
</script>

<div
  class="flex min-h-0 flex-1 flex-wrap content-start gap-0.5 overflow-y-auto {tall ? '' : 'beside:max-h-80'}"
  role="group"
  bind:this={list}
  onpointerleave={() => point(null)}
>
  {#each states as state (state.id)}
    <Button
      color="alternative"
      class="ghost h-auto flex-col justify-end! gap-0.5 border border-transparent p-1 text-xs hover:border-line! aria-pressed:border-accent! aria-pressed:bg-panel! aria-pressed:font-semibold aria-pressed:text-ink!"
      disabled={idle !== null}
      aria-pressed={chosen === state.id}
      {...hint(state.title)}
      onpointerenter={() => point(state)}
      onfocus={() => point(state)}
      onblur={() => point(null)}
      onclick={() => {
        point(null);
        choose(state.id);
      }}
    >
      <canvas
        bind:this={canvases[state.id]}
        data-state={state.id}
        style:width={`${size.width}px`}
        style:height={`${size.height}px`}
      ></canvas>
      <span class="block truncate" style:max-width={`${MOST.width}px`}>{state.label}</span>
    </Button>
  {/each}
</div>
