<!-- The Mend step: tools, the place in hand, and the list of what is mended. -->
<script lang="ts">
  import { Button, Checkbox, Input } from 'flowbite-svelte';
  import { disclose } from '$core/steps/mend/disclosure.ts';
  import { patchSchema } from '$core/steps/mend/patch.ts';
  import type { DustMended } from '$server/set/mend-dust.ts';
  import { call } from '$lib/call.ts';
  import { undoChanges } from '$lib/take-back.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import NumberControl from '../controls/NumberControl.svelte';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { DeckProps } from '../parts/step-parts.ts';
  import { changePatch, chosenPatch, fillAgain, findDust, mendOf, removePatch } from './edit-mend.svelte.ts';
  import type { MendToolState } from './mend-tool.svelte.ts';
  import { type MendTool, mendView } from './mend-view.svelte.ts';

  let { bench, sheet, job, ready }: DeckProps<MendToolState> = $props();
  const mine = $derived(mendView(bench));
  const off = $derived(bench.recipe.mend.enabled ? null : 'The Mend step is switched off.');
  const patches = $derived(mendOf(bench).patches);
  const chosen = $derived(chosenPatch(bench));
  const index = $derived(patches.findIndex(({ id }) => id === chosen?.id));
  const dust = $derived(patches.filter((patch) => patch.dust && patch.enabled).length);
  const BRUSH = ['size', 'feather', 'opacity'] as const;

  const TOOLS: { tool: MendTool; label: string; told: string }[] = [
    {
      tool: 'heal',
      label: 'Heal',
      told: 'Press on a spot or paint over it: texture from nearby, in the light of the place'
    },
    { tool: 'clone', label: 'Clone', told: 'Press or paint: the other place as it is' },
    {
      tool: 'cable',
      label: 'Cable',
      told: 'Draw along a cable or a crack: what lies beside it closes over it'
    },
    {
      tool: 'takeOut',
      label: 'Take out',
      told: 'Paint over all of a thing and its shadow: it is filled with pieces of what lies about it'
    },
    { tool: 'move', label: 'Move', told: 'Mend nothing: places and their sources are chosen and moved' }
  ];
  const KINDS = { heal: 'healed', clone: 'cloned', cable: 'cable', takeOut: 'taken out' } as const;
  let sending = $state(false);

  async function mendOthers(): Promise<void> {
    sending = true;
    try {
      await bench.saver.flush();
      const done = await call<DustMended>(`/api/frames/${bench.frame.id}/dust`, { method: 'POST' });
      toasts.tell(
        done.specks === 0
          ? `None of this dust shows on the ${done.looked} other frames of this camera.`
          : `${done.specks} specks mended on ${done.frames} of ${done.looked} other frames of this camera.`,
        { undo: undoChanges(job.id, done.changed) }
      );
    } catch (reason) {
      mine.said = (reason as Error).message;
    } finally {
      sending = false;
    }
  }
</script>

<section class="column flex-[0_0_320px]! beside:flex-none!" aria-label="Tools">
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
          // What is drawn next is no change of the place in hand.
          if (tool !== 'move') mine.patch = null;
        }}>{label}</Button
      >
    {/each}
  </div>
  <div class="mb-1.5 flex flex-wrap gap-1.25">
    <Button
      class="text-sm"
      disabled={off !== null || mine.busy}
      {...hint('Small round shades on skies and plain walls; each can be taken out again')}
      onclick={() => void findDust(bench, sheet)}>Find dust</Button
    >
    <Button
      color="light"
      class="px-2 text-sm"
      disabled={off !== null || dust === 0 || sending || ready.length < 2}
      {...hint(
        dust === 0
          ? 'Find dust on this frame first'
          : 'Dust lies at one place of the sensor: mends it on the other frames of this camera, where it shows'
      )}
      onclick={() => void mendOthers()}>On other frames</Button
    >
    <Button
      color="light"
      class="px-2 text-sm"
      aria-pressed={mine.plain}
      {...hint('Shows the picture so that dust is plain to see (E)')}
      onclick={() => (mine.plain = !mine.plain)}>Plain view</Button
    >
  </div>
  <p class="quiet text-sm" role="status" data-testid="mend-said">
    {mine.said || TOOLS.find(({ tool }) => tool === mine.tool)?.told}
  </p>
</section>
<section class="column" aria-label="Place">
  {#if chosen}
    {#each BRUSH as name (name)}
      <SettingControl {bench} step="mend" {name} within={['patches', index]} idle={off} />
    {/each}
    <div class="mt-1 flex items-center gap-2">
      <Input
        class="min-w-0 flex-1"
        aria-label="What was here"
        placeholder="What was here"
        maxlength={60}
        disabled={off !== null || chosen.dust}
        {...hint('Named in the report: a bin, a sign')}
        value={chosen.name}
        onchange={(event) => changePatch(bench, chosen.id, { name: event.currentTarget.value.trim() })}
      />
      {#if chosen.kind === 'takeOut'}
        <Button
          color="light"
          class="px-2 text-sm"
          disabled={off !== null || mine.busy}
          {...hint('Fills the place with other pieces')}
          onclick={() => void fillAgain(bench, sheet, chosen)}>Another try</Button
        >
      {:else}
        <Checkbox
          class="p-0"
          disabled={off !== null || chosen.kind !== 'heal' || chosen.points.length > 2}
          checked={chosen.dust}
          onchange={(event) => changePatch(bench, chosen.id, { dust: event.currentTarget.checked, name: '' })}
          >dust</Checkbox
        >
      {/if}
    </div>
  {:else}
    {#each BRUSH as name (name)}
      <NumberControl
        setting={patchSchema.properties[name]}
        label={`${patchSchema.properties[name].label} of the brush`}
        description={patchSchema.properties[name].description}
        value={mine.brush[name]}
        idle={off}
        change={(value) => (mine.brush[name] = value)}
      />
    {/each}
    <p class="quiet text-sm">
      {patches.length === 0
        ? 'Nothing is mended yet. These are for the next place.'
        : 'For the next place; choose one in the list to change it.'}
    </p>
  {/if}
</section>
<section class="column" aria-label="Mended places">
  {#if patches.length === 0}
    <p class="quiet text-sm">
      What is mended is listed here, one after another, and can be taken back singly.
    </p>
  {:else}
    <ul class="max-h-28 overflow-y-auto beside:max-h-44" data-testid="patches">
      {#each patches as patch, i (patch.id)}
        <li class="flex h-6 items-center gap-1.5 text-sm">
          <Checkbox
            class="p-0"
            checked={patch.enabled}
            aria-label={`Place ${i + 1} on or off`}
            onchange={(event) => changePatch(bench, patch.id, { enabled: event.currentTarget.checked })}
          />
          <Button
            color="alternative"
            class="ghost h-6 min-w-0 flex-1 justify-start gap-1.5 border-0 p-0 text-sm aria-pressed:font-semibold aria-pressed:text-accent"
            aria-pressed={mine.patch === patch.id}
            {...hint('Take this place in hand')}
            onclick={() => (mine.patch = mine.patch === patch.id ? null : patch.id)}
            ><span class="w-5 flex-none text-right">{i + 1}</span><span class="truncate"
              >{patch.dust ? 'dust' : patch.name || KINDS[patch.kind]}</span
            ></Button
          >
          <Button
            color="alternative"
            class="ghost h-6 w-6 flex-none border-0 p-0"
            aria-label={`Remove place ${i + 1}`}
            {...hint('Remove')}
            onclick={() => removePatch(bench, patch.id)}>×</Button
          >
        </li>
      {/each}
    </ul>
    <p
      class="quiet pt-1 text-xs"
      {...hint('What the report, the manifest and the metadata of a delivery say')}
    >
      Told as {disclose(bench.recipe).words}.
    </p>
  {/if}
</section>
