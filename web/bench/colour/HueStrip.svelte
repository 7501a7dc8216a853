<!-- A strip of hues with nodes, and over it the three curves that they bend: of the whole frame, or of an area. -->
<script lang="ts">
  import { Button, ButtonGroup } from 'flowbite-svelte';
  import { hueChange } from '$core/steps/colour/hues.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { HueNode } from '$core/steps/colour/step.ts';
  import FineTool from '../room/FineTool.svelte';
  import type { Size } from '../room/share-room.ts';
  import NumberControl from '../controls/NumberControl.svelte';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { HUE_STRIP, hueColour } from './hue-colours.ts';
  import { changedNode, heldNode, withoutNode } from './hue-nodes.ts';
  import { colourView } from './colour-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  interface Props {
    bench: Bench;
    sheet: SheetState;
    off: string | null;
    hues: readonly HueNode[];
    put: (hues: readonly HueNode[], moving: boolean) => void;
    /** The place of the node in hand. */
    node: number | null;
    /** Hues can be dragged on the picture. */
    onPicture?: boolean;
  }
  let { bench, sheet, off, hues, put, node = $bindable(), onPicture = false }: Props = $props();
  const mine = $derived(colourView(bench));
  const CURVES = [
    { name: 'hue', label: 'Hue', dash: undefined, most: 60 },
    { name: 'chroma', label: 'Saturation', dash: '6 3', most: 100 },
    { name: 'light', label: 'Lightness', dash: '1.5 3', most: 100 }
  ] as const;
  type Curve = (typeof CURVES)[number]['name'];

  const held = $derived(hues.find(({ at }) => at === node) ?? null);
  const change = $derived(hueChange(hues));
  const samples = $derived(Array.from({ length: 121 }, (_, i) => change(i * 3)));
  const path = (name: Curve, most: number, { width, height }: Size): string =>
    `M${samples
      .map(
        (each, i) =>
          `${((i / 120) * width).toFixed(1)} ${(height / 2 - (each[name] / most) * (height / 2 - 4)).toFixed(1)}`
      )
      .join('L')}`;

  let counts = $state.raw<number[]>([]);
  $effect(() => {
    if (!sheet.opened) return;
    void sheet.preview?.ask<'hues'>({ kind: 'hues', matrix: bench.linear }).then((found) => (counts = found));
  });

  const set = (at: number, own: Parameters<typeof changedNode>[2], moving = false): void =>
    put(changedNode(hues, at, own), moving);

  let plot = $state() as SVGSVGElement;
  let drag: { along: boolean } | null = null;
  function placeOf(event: PointerEvent): { hue: number; share: number } {
    const box = plot.getBoundingClientRect();
    return {
      hue: ((event.clientX - box.left) / box.width) * 360,
      share: 1 - (2 * (event.clientY - box.top)) / box.height
    };
  }
  function down(event: PointerEvent): void {
    if (off !== null || event.button !== 0) return;
    plot.setPointerCapture(event.pointerId);
    const { hue } = placeOf(event);
    const nodes = heldNode(hues, hue);
    node = nodes.held;
    drag = { along: event.shiftKey };
    if (nodes.hues.length !== hues.length) put(nodes.hues, true);
  }
  function move(event: PointerEvent): void {
    const at = node;
    if (!drag || at === null) return;
    const { hue, share } = placeOf(event);
    if (drag.along) moveAlong(at, hue, true);
    else {
      const { name, most } = CURVES.find((each) => each.name === mine.hueCurve)!;
      set(at, { [name]: share * most }, true);
    }
  }
  function moveAlong(at: number, to: number, moving: boolean): void {
    const next = changedNode(hues, at, { at: Math.min(359.9, Math.max(0, to)) });
    const i = hues.findIndex((node) => node.at === at);
    node = next[i].at;
    put(next, moving);
  }
  function up(): void {
    if (drag) put(hues, false);
    drag = null;
  }
  function remove(at: number): void {
    put(withoutNode(hues, at), false);
    node = null;
  }
  function keydown(event: KeyboardEvent, at: number): void {
    const by = event.shiftKey ? 10 : 1;
    const { name } = CURVES.find((each) => each.name === mine.hueCurve)!;
    const of = hues.find((each) => each.at === at)!;
    if (event.key === 'Delete' || event.key === 'Backspace') remove(at);
    else if (event.key === 'ArrowUp' || event.key === 'ArrowDown')
      set(at, { [name]: of[name] + (event.key === 'ArrowUp' ? by : -by) });
    else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight')
      moveAlong(at, at + (event.key === 'ArrowRight' ? by : -by), false);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<section class="column flex flex-[0_0_540px] flex-col" aria-label="Strip of hues">
  <FineTool name="the strip of hues" small={{ width: 504, height: 96 }}>
    {#snippet tool({ width, height })}
      <svg
        class="block flex-none touch-none border border-line bg-panel"
        bind:this={plot}
        viewBox={`0 0 ${width} ${height}`}
        {width}
        {height}
        role="group"
        aria-label="Strip of hues: a press sets a node, a drag bends the curve that is chosen, with Shift moves the node"
        data-testid="hues"
        onpointerdown={down}
        onpointermove={move}
        onpointerup={up}
        ondblclick={() => held && off === null && remove(held.at)}
      >
        {#each counts as count, i (i)}
          <rect
            x={(i / counts.length) * width}
            y={height - count * (height - 10)}
            width={width / counts.length + 0.5}
            height={count * (height - 10)}
            fill={hueColour((i + 0.5) * 5)}
            opacity="0.35"
          />
        {/each}
        <path d={`M0 ${height / 2}H${width}`} stroke="var(--line)" />
        {#each CURVES as { name, dash, most } (name)}
          <path
            d={path(name, most, { width, height })}
            fill="none"
            stroke={mine.hueCurve === name ? 'var(--accent)' : 'var(--ink)'}
            stroke-width={mine.hueCurve === name ? 2 : 1.2}
            stroke-dasharray={dash}
          />
        {/each}
        {#each hues as each (each.at)}
          {@const { name, most } = CURVES.find((each) => each.name === mine.hueCurve)!}
          {@const x = (each.at / 360) * width}
          <path d={`M${x} 0V${height}`} stroke="var(--faint)" stroke-dasharray="2 4" />
          <rect
            x={x - 4}
            y={height / 2 - (each[name] / most) * (height / 2 - 4) - 4}
            width="8"
            height="8"
            fill={held?.at === each.at ? 'var(--accent)' : 'var(--panel)'}
            stroke="var(--ink)"
            stroke-width="1.4"
            role="slider"
            tabindex={off === null ? 0 : -1}
            aria-label={`Node at ${each.at}°`}
            aria-valuenow={each[name]}
            aria-valuetext={`hue ${each.hue}, saturation ${each.chroma}, lightness ${each.light}`}
            onfocus={() => (node = each.at)}
            onkeydown={(event) => keydown(event, each.at)}
          />
        {/each}
      </svg>
      <div class="h-2.5 flex-none" style:width={`${width}px`} style:background={HUE_STRIP}></div>
    {/snippet}
  </FineTool>
  <div class="flex flex-wrap items-center gap-x-2 gap-y-1 pt-1.5">
    <ButtonGroup>
      {#each CURVES as { name, label } (name)}
        <Button
          {...hint(`Changes the ${label.toLowerCase()} of each hue`)}
          color="light"
          class="h-6"
          aria-pressed={mine.hueCurve === name}
          onclick={() => (mine.hueCurve = name)}>{label}</Button
        >
      {/each}
    </ButtonGroup>
    {#if onPicture}
      <Button
        color="light"
        class="h-6"
        disabled={off !== null}
        aria-pressed={mine.tool === 'hue'}
        {...hint('Drag on the picture, up or down: what is pointed at changes')}
        onclick={() => (mine.tool = mine.tool === 'hue' ? 'none' : 'hue')}>On the picture</Button
      >
    {/if}
    {#if onPicture}<span class="quiet truncate text-xs" role="status">{mine.said}</span>{/if}
  </div>
</section>
<section class="column" aria-label="Node">
  {#if held}
    {#each CURVES as { name, label, most } (name)}
      <NumberControl
        setting={{ label, minimum: -most, maximum: most, step: 1, default: 0 }}
        label={`${label} of the node`}
        value={held[name]}
        idle={off}
        change={(value, moving) => set(held.at, { [name]: value }, moving)}
      />
    {/each}
    <NumberControl
      setting={{ label: 'Place', minimum: 0, maximum: 360, step: 1, default: held.at, unit: '°' }}
      label="Place of the node"
      value={held.at}
      idle={off}
      change={(value, moving) => moveAlong(held.at, value, moving)}
    />
    <div class="flex gap-1.25 pt-1">
      <Button color="light" class="h-6" disabled={off !== null} onclick={() => remove(held.at)}>Remove</Button
      >
      <Button color="light" class="h-6" disabled={off !== null} onclick={() => put([], false)}
        >All back</Button
      >
    </div>
  {:else}
    <p class="quiet text-xs leading-[1.4]">
      Press on the strip to set a node where a colour is to change, or point at it on the picture. A node
      reaches 45° to each side, and no farther than its neighbours; all else stays.
    </p>
  {/if}
</section>
