<!-- The areas of a frame, in their order, each with its letter; and what can be done to the chosen one. -->
<script lang="ts">
  import { Button, Checkbox, Input, Select } from 'flowbite-svelte';
  import { changesPicture, letterOf } from '$core/steps/areas/step.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import { roomInHand } from '../room/room-state.svelte.ts';
  import FineTool from '../room/FineTool.svelte';
  import { areaName, nameOf } from './area-names.ts';
  import { type MaskShown, areasView } from './areas-view.svelte.ts';
  import {
    addArea,
    areasFull,
    areasOf,
    changeArea,
    chosenArea,
    changeAreas,
    duplicateArea,
    groupAreas,
    moveArea,
    neutralArea,
    removeArea,
    sharesShape,
    together
  } from './edit-areas.ts';

  let { bench, off }: { bench: Bench; off: string | null } = $props();
  const mine = $derived(areasView(bench));
  const { list, shapes } = $derived(areasOf(bench));
  const groups = $derived([...new Set(list.map(({ group }) => group).filter(Boolean))]);
  /** Areas in their order; where a group begins, its name stands above them. */
  const rows = $derived(
    list.map((area, i) => ({
      area,
      i,
      begins: area.group !== '' && list[i - 1]?.group !== area.group,
      hidden: area.group !== '' && mine.folded.includes(area.group)
    }))
  );
  const membersOf = (group: string): string[] =>
    list.filter((area) => area.group === group).map(({ id }) => id);
  const fold = (group: string): void =>
    void (mine.folded = mine.folded.includes(group)
      ? mine.folded.filter((each) => each !== group)
      : [...mine.folded, group]);
  /** With Shift or Ctrl another area is chosen beside the one that is worked on, or is so no more. */
  function choose(id: string, beside: boolean): void {
    mine.part = null;
    if (beside && mine.area !== null && mine.area !== id)
      mine.also = mine.also.includes(id) ? mine.also.filter((each) => each !== id) : [...mine.also, id];
    else [mine.area, mine.also] = [mine.area === id && mine.also.length === 0 ? null : id, []];
  }
  const isChosen = (id: string): boolean =>
    mine.area !== null && (mine.area === id || mine.also.includes(id));
  const told = (area: (typeof list)[number]): string =>
    areaName(
      area,
      shapes.find(({ id }) => id === area.shape)
    );
  const chosen = $derived(chosenArea(bench));
  const room = roomInHand();
  /** The list on the deck below, from where it is made large; and the height that it takes beside the sheet, at most. */
  const BELOW = { width: 246, height: 72 };
  const BESIDE = 168;
  const SHOWN: { value: MaskShown; name: string }[] = [
    { value: 'hatching', name: 'Hatching' },
    { value: 'grey', name: 'Mask alone' },
    { value: 'none', name: 'Nothing' }
  ];
</script>

<section class="column flex-[0_0_272px] beside:flex-none" aria-label="Areas">
  <div class="mb-1.5 flex items-center gap-1.25">
    <Button
      disabled={off !== null || areasFull(bench) !== null}
      {...hint(
        areasFull(bench) ?? 'A new area with an empty shape. Drawing with none chosen begins one, too'
      )}
      onclick={() => addArea(bench)}>New area</Button
    >
    <Button
      color="light"
      class="px-2"
      disabled={!chosen}
      {...hint('Another area with the same settings, in a shape of its own')}
      onclick={() => chosen && duplicateArea(bench, chosen.area.id, false)}>Duplicate</Button
    >
    <span class="flex-1"></span>
    <Button
      color="light"
      class="w-6 px-0"
      disabled={!chosen || !changesPicture({ ...chosen.area, enabled: true, opacity: 100 })}
      aria-label="Set back all that the area does"
      {...hint('All that the area does back to neutral; its shape stays')}
      onclick={() => chosen && neutralArea(bench, chosen.area.id)}>↺</Button
    >
    {#each [['↑', -1, 'Earlier: what comes later acts on what earlier ones left'], ['↓', 1, 'Later']] as const as [sign, by, told] (by)}
      <Button
        color="light"
        class="w-6 px-0"
        disabled={!chosen}
        aria-label={by < 0 ? 'Move the area up' : 'Move the area down'}
        {...hint(told)}
        onclick={() => chosen && moveArea(bench, chosen.area.id, by)}>{sign}</Button
      >
    {/each}
  </div>
  {#if list.length === 0}
    <p class="quiet text-sm">
      No areas yet. Take a tool and draw on the picture, or begin with the sky: an area is a shape and what is
      done in it.
    </p>
  {:else}
    <FineTool name="the list of areas" small={BELOW} square corner="right" holds="list">
      {#snippet tool({ height })}
        <ul
          class="min-w-0 overflow-y-auto pr-5"
          style:max-height={`${room.beside ? BESIDE : height}px`}
          style:width={height > BELOW.height ? undefined : `${BELOW.width}px`}
          data-testid="areas"
        >
          {#each rows as { area, i, begins, hidden } (area.id)}
            {#if begins}
              {@const members = membersOf(area.group)}
              {@const on = list.filter(({ id, enabled }) => enabled && members.includes(id)).length}
              <li class="flex h-6 items-center gap-1.5 text-sm" data-testid="area-group">
                <Checkbox
                  class="p-0"
                  checked={on > 0}
                  aria-label={`Group ${area.group} on or off`}
                  onchange={(event) => changeAreas(bench, members, { enabled: event.currentTarget.checked })}
                />
                <Button
                  color="alternative"
                  class="ghost h-6 min-w-0 flex-1 justify-start gap-1.5 border-0 p-0 text-sm font-semibold"
                  aria-expanded={!mine.folded.includes(area.group)}
                  {...hint('List its areas, or only the group')}
                  onclick={() => fold(area.group)}
                  ><span class="w-3 flex-none">{mine.folded.includes(area.group) ? '▸' : '▾'}</span><span
                    class="truncate">{area.group}</span
                  ><span class="text-faint">{members.length}</span></Button
                >
              </li>
            {/if}
            {#if !hidden}
              <li class={['flex h-6 items-center gap-1.5 text-sm', area.group && 'pl-3']} data-testid="area">
                <Checkbox
                  class="p-0"
                  checked={area.enabled}
                  aria-label={`${nameOf(area, i)} on or off`}
                  onchange={(event) =>
                    changeAreas(bench, together(bench, area.id), { enabled: event.currentTarget.checked })}
                />
                <Button
                  color="alternative"
                  class="ghost h-6 min-w-0 flex-1 justify-start gap-1.5 border-0 p-0 text-sm aria-pressed:font-semibold aria-pressed:text-accent"
                  aria-pressed={isChosen(area.id)}
                  {...hint(`${told(area)}. Shift or Ctrl chooses several, to switch or group them together`)}
                  onclick={(event: MouseEvent) =>
                    choose(area.id, event.shiftKey || event.ctrlKey || event.metaKey)}
                  ><span class="w-4 flex-none">{letterOf(i)}</span><span class="truncate"
                    >{told(area)}{sharesShape(bench, area) > 0 && !area.name ? ', shared' : ''}</span
                  ></Button
                >
                {#if mine.area === area.id && mine.cover !== null}
                  <span
                    class="text-xs text-faint"
                    {...hint('Share of the crop that it covers')}
                    data-testid="cover">{(100 * mine.cover).toFixed(1)} %</span
                  >
                {/if}
                <div class="w-8.5 flex-none">
                  <Input
                    class="h-5 w-full px-0.5 py-0 text-right text-xs"
                    aria-label={`Opacity of ${nameOf(area, i)}, in percent`}
                    {...hint('How much of it is mixed in, in percent')}
                    inputmode="numeric"
                    value={String(area.opacity)}
                    onkeydown={(event: KeyboardEvent) => {
                      if (event.key === 'Enter') (event.currentTarget as HTMLElement).blur();
                    }}
                    onchange={(event) => {
                      const typed = Number(event.currentTarget.value.replace('%', '').trim());
                      const opacity = Math.round(Math.min(100, Math.max(0, typed)));
                      if (Number.isFinite(opacity)) changeAreas(bench, together(bench, area.id), { opacity });
                      event.currentTarget.value = String(Number.isFinite(opacity) ? opacity : area.opacity);
                    }}
                  />
                </div>
                <Button
                  color="alternative"
                  class="ghost h-6 w-5 flex-none border-0 p-0"
                  aria-label={`Remove ${nameOf(area, i)}`}
                  {...hint('Remove')}
                  onclick={() => removeArea(bench, area.id)}>×</Button
                >
              </li>
            {/if}
          {/each}
        </ul>
      {/snippet}
    </FineTool>
  {/if}
  <div class="mt-1.5 flex items-center gap-1.5">
    <Input
      class="min-w-0 flex-1"
      aria-label="Name of the area"
      placeholder="Name"
      maxlength={60}
      disabled={!chosen}
      value={chosen?.area.name ?? ''}
      onchange={(event) =>
        chosen && changeArea(bench, chosen.area.id, { name: event.currentTarget.value.trim() })}
    />
    <Input
      class="min-w-0 flex-[0_1_64px]"
      aria-label="Group of the area"
      placeholder="Group"
      list="area-groups"
      maxlength={40}
      disabled={!chosen}
      {...hint('Areas of one group are switched off and on together; empty: none')}
      value={chosen?.area.group ?? ''}
      onkeydown={(event: KeyboardEvent) => {
        if (event.key === 'Enter') (event.currentTarget as HTMLElement).blur();
      }}
      onchange={(event) =>
        chosen && groupAreas(bench, together(bench, chosen.area.id), event.currentTarget.value.trim())}
    />
    <datalist id="area-groups">
      {#each groups as group (group)}<option value={group}></option>{/each}
    </datalist>
    <Select
      placeholder=""
      class="w-21"
      aria-label="How the mask is shown"
      {...hint(
        'How the shape is shown over the picture (E); hidden while what the area does is set and judged'
      )}
      bind:value={mine.shown}
    >
      {#each SHOWN as { value, name } (value)}<option {value}>{name}</option>{/each}
    </Select>
  </div>
</section>
