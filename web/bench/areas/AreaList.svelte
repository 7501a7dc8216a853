<!-- The areas of a frame, in their order, each with its letter; and what can be done to the chosen one. -->
<script lang="ts">
  import { Button, Checkbox, Input, Select } from 'flowbite-svelte';
  import { changesPicture, letterOf } from '$core/steps/areas/step.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import { type MaskShown, areasView } from './areas-view.svelte.ts';
  import {
    addArea,
    areasFull,
    areasOf,
    changeArea,
    chosenArea,
    duplicateArea,
    moveArea,
    nameOf,
    neutralArea,
    removeArea,
    sharesShape
  } from './edit-areas.ts';

  let { bench, off }: { bench: Bench; off: string | null } = $props();
  const mine = $derived(areasView(bench));
  const { list } = $derived(areasOf(bench));
  const chosen = $derived(chosenArea(bench));
  const SHOWN: { value: MaskShown; name: string }[] = [
    { value: 'hatching', name: 'Hatching' },
    { value: 'grey', name: 'Mask alone' },
    { value: 'none', name: 'Nothing' }
  ];
</script>

<section class="column flex-[0_0_208px] beside:flex-none" aria-label="Areas">
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
    <ul class="max-h-18 overflow-y-auto beside:max-h-24" data-testid="areas">
      {#each list as area, i (area.id)}
        <li class="flex h-6 items-center gap-1.5 text-sm">
          <Checkbox
            class="p-0"
            checked={area.enabled}
            aria-label={`${nameOf(area, i)} on or off`}
            onchange={(event) => changeArea(bench, area.id, { enabled: event.currentTarget.checked })}
          />
          <Button
            color="alternative"
            class="ghost h-6 min-w-0 flex-1 justify-start gap-1.5 border-0 p-0 text-sm aria-pressed:font-semibold aria-pressed:text-accent"
            aria-pressed={mine.area === area.id}
            {...hint('Work on this area')}
            onclick={() => {
              mine.area = mine.area === area.id ? null : area.id;
              mine.part = null;
            }}
            ><span class="w-4 flex-none">{letterOf(i)}</span><span class="truncate"
              >{area.name || (sharesShape(bench, area) > 0 ? 'same shape' : 'area')}</span
            ></Button
          >
          {#if mine.area === area.id && mine.cover !== null}
            <span class="text-faint" data-testid="cover">{(100 * mine.cover).toFixed(1)} %</span>
          {/if}
          <Button
            color="alternative"
            class="ghost h-6 w-6 flex-none border-0 p-0"
            aria-label={`Remove ${nameOf(area, i)}`}
            {...hint('Remove')}
            onclick={() => removeArea(bench, area.id)}>×</Button
          >
        </li>
      {/each}
    </ul>
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
    <Select
      placeholder=""
      class="w-26"
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
