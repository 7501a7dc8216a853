<!-- The shape of an area: tools that draw parts, the parts it is built from, and the one in hand. -->
<script lang="ts">
  import { Button, Checkbox, Select } from 'flowbite-svelte';
  import { markedFront } from '$core/steps/lines/marked-front.ts';
  import { MEETINGS, type Meeting } from '$core/steps/areas/parts/part-base.ts';
  import NumberControl from '../controls/NumberControl.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import AreaPart from './AreaPart.svelte';
  import { type AreasTool, areasView } from './areas-view.svelte.ts';
  import { nameOf, partName } from './area-names.ts';
  import { addPart, areasOf, chosenArea, removePart, sharesShape, takeShape } from './edit-areas.ts';

  let { bench, sheet, off }: { bench: Bench; sheet: SheetState; off: string | null } = $props();
  const mine = $derived(areasView(bench));
  const chosen = $derived(chosenArea(bench));
  const parts = $derived(chosen?.shape.parts ?? []);
  const part = $derived(parts.find(({ id }) => id === mine.part) ?? null);

  const TOOLS: { tool: AreasTool; label: string; told: string }[] = [
    {
      tool: 'gradient',
      label: 'Gradient',
      told: 'Drag from where it is whole to where it is gone; with Shift plumb, level, or along a mark of Lines'
    },
    {
      tool: 'radial',
      label: 'Radial',
      told: 'Drag from the middle outwards: an ellipse; with Shift a circle'
    },
    {
      tool: 'polygon',
      label: 'Polygon',
      told: 'Press corner by corner; Enter or the first corner closes it'
    },
    { tool: 'lasso', label: 'Lasso', told: 'Drag around what is meant' },
    { tool: 'brush', label: 'Brush', told: 'Paint; with Alt held what is painted is taken away' },
    { tool: 'colour', label: 'Colours', told: 'Press on colours that are meant: up to twelve in a range' },
    {
      tool: 'beside',
      label: 'Beside',
      told: 'Drag along an edge, or press on a mark of Lines: what lies to one side of it'
    },
    { tool: 'move', label: 'Move', told: 'Draw nothing: only handles are moved' }
  ];
  /** What is not drawn: found by itself, what Lines knows, a range of tones. */
  const PARTS: { label: string; add: () => void }[] = [
    { label: 'Sky', add: () => addPart(bench, 'found', { what: 'sky' }) },
    { label: 'Windows', add: () => addPart(bench, 'found', { what: 'windows' }) },
    { label: 'Front', add: takeFront },
    { label: 'Tones', add: () => addPart(bench, 'light', { low: -3, high: 0, feather: 1 }) }
  ];
  /** What stands in the two lists that only ever begin something: nothing. */
  let [added, taken] = $state(['', '']);
  function add(): void {
    PARTS.find(({ label }) => label === added)?.add();
    added = '';
  }
  function takeFront(): void {
    const points = markedFront(bench.recipe.lines.marks, bench.inputs.plan.projection);
    if (points) addPart(bench, 'polygon', { points, feather: 0, front: true });
    else mine.said = 'Lines has no plumb and level marks on this frame: true it up there first.';
  }
  const MEETS: Record<Meeting, string> = { add: 'add', take: 'take away', within: 'keep within' };
  const SIGNS: Record<Meeting, string> = { add: '+', take: '−', within: '∩' };

  const number = (label: string, minimum: number, maximum: number, usual: number, step = 1, unit = '%') => ({
    label,
    minimum,
    maximum,
    default: usual,
    step,
    unit
  });
  const others = $derived(areasOf(bench).list.filter(({ shape }) => shape !== chosen?.area.shape));
  function take(): void {
    const [id, how] = taken.split(' ');
    const from = others.find((area) => area.id === id);
    if (from) takeShape(bench, from, how === 'shared');
    taken = '';
  }
</script>

<section class="column flex-[0_0_284px] beside:flex-none" aria-label="Tools">
  <div class="mb-1.5 grid grid-cols-5 gap-1.25">
    {#each TOOLS as { tool, label, told } (tool)}
      <Button
        color="light"
        class="px-0 text-sm"
        disabled={off !== null}
        aria-pressed={mine.tool === tool}
        {...hint(told)}
        onclick={() => {
          mine.tool = tool;
          mine.corners = [];
        }}>{label}</Button
      >
    {/each}
    <Select
      placeholder=""
      class="col-span-2 text-sm"
      aria-label="Add"
      {...hint(
        'What is found by itself: the sky, bright windows of a room, the front that Lines trued up; or tones'
      )}
      disabled={off !== null}
      bind:value={added}
      onchange={add}
    >
      <option value="">Add…</option>
      {#each PARTS as { label } (label)}<option value={label}>{label}</option>{/each}
    </Select>
  </div>
  {#if mine.tool === 'brush'}
    <NumberControl
      setting={number('Size', 2, 400, 60, 1, '‰')}
      description="Radius of the brush, in thousandths of half the diagonal ([ and ])."
      value={mine.brush.size}
      range={[2, 200]}
      change={(size) => (mine.brush.size = size)}
    />
    <NumberControl
      setting={number('Softness', 0, 100, 60)}
      description="Share of the radius over which the rim fades."
      value={mine.brush.softness}
      change={(softness) => (mine.brush.softness = softness)}
    />
    <NumberControl
      setting={number('Flow', 1, 100, 100)}
      description="How much one stroke lays on."
      value={mine.brush.flow}
      change={(flow) => (mine.brush.flow = flow)}
    />
    <NumberControl
      setting={number('Cap', 1, 100, 100)}
      label="Cap of the brush"
      description="The most that strokes over one another build up to."
      value={mine.brush.cap}
      change={(cap) => (mine.brush.cap = cap)}
    />
  {:else}
    <p class="quiet text-sm" role="status">
      {mine.said || TOOLS.find(({ tool }) => tool === mine.tool)?.told}
    </p>
  {/if}
</section>
<section class="column flex-[0_0_172px] beside:flex-none" aria-label="Parts">
  {#if !chosen}
    <p class="quiet text-sm">No area is chosen: choose one in the list, or draw to begin one.</p>
  {:else}
    <ul class="max-h-18 overflow-y-auto beside:max-h-18" data-testid="parts">
      {#each parts as each, i (each.id)}
        <li class="flex h-6 items-center gap-1 text-sm">
          <Button
            color="alternative"
            class="ghost h-6 min-w-0 flex-1 justify-start gap-1.5 border-0 p-0 text-sm aria-pressed:font-semibold aria-pressed:text-accent"
            aria-pressed={mine.part === each.id}
            {...hint('Take this part in hand')}
            onclick={() => (mine.part = mine.part === each.id ? null : each.id)}
            ><span class="w-4 flex-none">{SIGNS[each.meets]}</span><span class="truncate"
              >{partName(each)}</span
            ></Button
          >
          <Button
            color="alternative"
            class="ghost h-6 w-6 flex-none border-0 p-0"
            aria-label={`Remove part ${i + 1}`}
            {...hint('Remove')}
            onclick={() => removePart(bench, each.id)}>×</Button
          >
        </li>
      {:else}
        <li class="quiet text-sm">This shape is empty: draw a part.</li>
      {/each}
    </ul>
    <div class="mt-1.5 flex items-center gap-1.25">
      <Select
        placeholder=""
        class="min-w-0 flex-1"
        aria-label="How the next part meets the others"
        {...hint('How the next part that is drawn meets those before it')}
        bind:value={mine.meets}
      >
        {#each MEETINGS as meets (meets)}<option value={meets}>{SIGNS[meets]} {MEETS[meets]}</option>{/each}
      </Select>
      <Select
        placeholder=""
        class="min-w-0 flex-1"
        aria-label="Take the shape of another area"
        {...hint('Its shape as a copy, or the same one: that changes with both')}
        disabled={others.length === 0}
        bind:value={taken}
        onchange={take}
      >
        <option value="">Shape…</option>
        {#each others as area (area.id)}
          {@const name = nameOf(area, areasOf(bench).list.indexOf(area))}
          <option value={`${area.id} copied`}>{name}, a copy</option>
          <option value={`${area.id} shared`}>{name}, the same</option>
        {/each}
      </Select>
    </div>
    {#if sharesShape(bench, chosen.area) > 0}
      <p class="quiet text-xs">This shape is that of another area, too.</p>
    {/if}
  {/if}
  {#if mine.tool === 'brush'}
    <div class="flex gap-3 pt-1">
      <Checkbox
        bind:checked={mine.brush.erases}
        {...hint(
          'What is painted is taken away from the shape, whatever it is built from; so is what is drawn with Alt held'
        )}>erase (Alt)</Checkbox
      >
      <Checkbox
        bind:checked={mine.brush.keepsEdges}
        {...hint('Paints only what looks like what lies under the middle of the brush')}
        >keep to edges</Checkbox
      >
    </div>
  {/if}
</section>
<AreaPart {bench} {sheet} {off} {part} />
