<!-- What is done with the selected frames of a job, and in which order and which of them are shown. -->
<script lang="ts">
  import {
    Button,
    ButtonGroup,
    Checkbox,
    Dropdown,
    DropdownItem,
    Input,
    Label,
    Modal,
    Select
  } from 'flowbite-svelte';
  import TrueUpModeSelect from '../bench/lines/TrueUpModeSelect.svelte';
  import FindLensDialog from '../bench/lens/FindLensDialog.svelte';
  import { CHOICES, CHOICE_KEYS, CHOICE_SHAPES, type FrameChoiceName } from '../bench/state/choices.ts';
  import { call } from '$lib/call.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import type { SetChange } from '$server/recipes/write-recipe.ts';
  import { undoChanges, undoSaid } from '$lib/take-back.ts';
  import type { TrueUpMode } from '$core/steps/lines/solve-rotation.ts';
  import type { FrameCard } from '$server/set/frame-card.ts';
  import type { Loss } from '$server/jobs/remove-job.ts';
  import HandOverDialog from '../hand-over/HandOverDialog.svelte';
  import HouseDialog from './HouseDialog.svelte';
  import PrepareDialog from './PrepareDialog.svelte';
  import MatchDialog from './MatchDialog.svelte';
  import MeasureDialog from './MeasureDialog.svelte';
  import SendDialog from './SendDialog.svelte';
  import StraightenDialog from './StraightenDialog.svelte';
  import { lossText } from './loss-text.ts';
  import { trueUpFrames } from './true-up-frames.ts';
  import { FILTERS, type Filter, ORDERS, type Order, passes } from './set-order.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Props {
    job: string;
    /** Those that the job needs. */
    ratios: readonly string[];
    cards: readonly FrameCard[];
    /** Those of them that are shown. */
    shown: readonly FrameCard[];
    selected: ReadonlySet<string>;
    selectAll: (on: boolean) => void;
    choose: (choice: FrameChoiceName) => Promise<void>;
    order: Order;
    filter: Filter;
  }
  let {
    job,
    ratios,
    cards,
    shown,
    selected,
    selectAll,
    choose,
    order = $bindable(),
    filter = $bindable()
  }: Props = $props();
  let finding = $state(false);
  let house = $state(false);
  let preparing = $state(false);
  let measuring = $state(false);
  let straightening = $state(false);
  let naming = $state(false);
  let room = $state('');
  /** The menu that is open. */
  let opened = $state('');
  let matching = $state(false);
  let sending = $state(false);
  let handing = $state(false);
  let mode = $state<TrueUpMode>('verticals');
  /** How far truing up the selected frames has come. */
  let truing = $state('');
  let loss = $state.raw<Loss | null>(null);
  const ids = $derived([...selected]);
  const ready = $derived(
    cards.map(({ frame }) => frame).filter(({ id, state }) => selected.has(id) && state === 'ready')
  );
  const counts = $derived(
    new Map(FILTERS.map((name) => [name, cards.filter((card) => passes(card, name)).length]))
  );
  $effect(() => {
    void ids;
    loss = null;
  });

  async function act(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (reason) {
      toasts.tell((reason as Error).message, { trouble: true });
    }
  }
  const count = (n: number): string => `${n} ${n === 1 ? 'frame' : 'frames'}`;
  const give = (profile: string): Promise<void> =>
    act(async () => {
      const { frames, changed } = await call<SetChange>(`/api/jobs/${job}/lens`, {
        method: 'POST',
        body: { frames: ids, profile }
      });
      const has = `${count(frames)} ${frames === 1 ? 'has' : 'have'}`;
      toasts.tell(`${has} ${profile === 'auto' ? 'the profile that matches' : 'the profile now'}.`, {
        undo: undoChanges(job, changed)
      });
    });
  const nameRooms = (): Promise<void> =>
    act(async () => {
      const before = cards
        .filter(({ frame }) => selected.has(frame.id))
        .map(({ frame: { id, room } }) => ({ id, room }));
      const { changed } = await call<Pick<SetChange, 'changed'>>(`/api/jobs/${job}/frames`, {
        method: 'PATCH',
        body: { ids, room }
      });
      naming = false;
      const laid = changed.length > 0 ? ` House settings are laid over ${changed.length} of them.` : '';
      toasts.tell(`${count(ids.length)} named${room ? ` ${room}` : ''}.${laid}`, {
        async undo() {
          await undoChanges(job, changed)?.();
          return undoSaid(job, before)();
        }
      });
    });
  const remove = (): Promise<void> =>
    act(async () => {
      if (loss === null) loss = await call<Loss>(`/api/jobs/${job}/loss`, { method: 'POST', body: { ids } });
      else await call(`/api/jobs/${job}/frames`, { method: 'DELETE', body: { ids } });
    });

  async function trueUp(): Promise<void> {
    const { said, changed } = await trueUpFrames(ready, mode, (text) => (truing = text));
    truing = '';
    toasts.tell(said, { undo: undoChanges(job, changed) });
  }
  const needs = (least: number, why: string) => (): string | null => (ready.length < least ? why : null);
  interface MenuItem {
    label: string;
    /** Why it acts on nothing now. */
    idle: () => string | null;
    run: () => void;
  }
  const LENS: readonly MenuItem[] = [
    { label: 'Give a profile…', idle: () => null, run: () => (finding = true) },
    { label: 'Match by itself', idle: () => null, run: () => void give('auto') },
    {
      label: 'Measure from them…',
      idle: needs(1, 'Select a frame that is ready'),
      run: () => (measuring = true)
    },
    {
      label: 'Straighten by their edges…',
      idle: needs(2, 'Select two frames or more of one lens'),
      run: () => (straightening = true)
    }
  ];
  const MORE: readonly MenuItem[] = [
    {
      label: 'Match to a frame…',
      idle: needs(1, 'Select a frame that is ready'),
      run: () => (matching = true)
    },
    { label: 'House settings…', idle: () => null, run: () => (house = true) },
    {
      label: 'Hand over…',
      idle: needs(1, 'Select a frame that is ready'),
      run: () => (handing = true)
    },
    { label: 'Move or copy…', idle: () => null, run: () => (sending = true) },
    { label: 'Remove…', idle: () => null, run: () => void remove() }
  ];
</script>

<div class="sticky top-0 z-10 mt-3.5 flex flex-col bg-paper py-1.5">
  <div class="flex items-center gap-x-2.5">
    <Checkbox
      checked={shown.length > 0 && shown.every(({ frame }) => selected.has(frame.id))}
      onchange={(event) => selectAll(event.currentTarget.checked)}
      >{selected.size === 0 ? 'Select all' : `${selected.size} selected`}</Checkbox
    >
    <Select
      placeholder=""
      aria-label="Order"
      {...hint('Order of the frames; one that is dragged, or moved by Shift and an arrow, is placed by hand')}
      bind:value={order}
    >
      {#each ORDERS as name (name)}<option value={name}>by {name}</option>{/each}
    </Select>
    <Select placeholder="" aria-label="Which frames" {...hint('Which frames are shown')} bind:value={filter}>
      {#each FILTERS as name (name)}<option value={name}>{name} ({counts.get(name)})</option>{/each}
    </Select>
    {#if selected.size > 0}
      <div class="flex items-center gap-x-2" role="toolbar" aria-label="Selected frames">
        {@render divider()}
        <ButtonGroup>
          {#each CHOICES as choice (choice)}
            <Button
              color="light"
              aria-label={choice}
              {...hint(
                `The selected frames are ${choice} (${CHOICE_KEYS[choice].toUpperCase()}, also for the one under the pointer)`
              )}
              onclick={() => choose(choice)}
              ><span aria-hidden="true">{CHOICE_SHAPES[choice]}</span>{choice}</Button
            >
          {/each}
        </ButtonGroup>
        <Button
          color="light"
          {...hint('Names the room that the selected frames show, for file names')}
          onclick={() => (naming = true)}>Room…</Button
        >
        {@render divider()}
        <Button
          disabled={ready.length === 0 || truing !== ''}
          {...hint('True, cropped, toned and balanced by itself, with house settings, in one go')}
          onclick={() => (preparing = true)}>Prepare…</Button
        >
        <Button
          color="light"
          disabled={ready.length === 0 || truing !== ''}
          {...hint('From the straight edges that each frame shows; what is not sure is left as it is')}
          onclick={trueUp}>True up</Button
        >
        <TrueUpModeSelect bind:mode />
        {@render menu('Lens…', 'Profiles for the selected frames, measured or straightened from them', LENS)}
        {@render menu('More…', 'What else is done with the selected frames', MORE)}
      </div>
    {/if}
  </div>
  {#if loss}
    <p class="mt-1.5" role="alert" data-testid="loss">
      {lossText(loss)}
      <Button color="light" onclick={remove}>Remove {selected.size} for good</Button>
      <Button color="light" onclick={() => (loss = null)}>Keep them</Button>
    </p>
  {/if}
  {#if truing}<p class="mt-1.5" role="status">{truing}</p>{/if}
</div>
{#snippet menu(name: string, what: string, items: readonly MenuItem[])}
  <Button color="light" {...hint(what)}>{name}</Button>
  <Dropdown
    class="w-55 list-none rounded-md border border-line bg-panel text-ink shadow-lg"
    bind:isOpen={() => opened === name, (open) => (opened = open ? name : '')}
  >
    {#each items as { label, idle, run } (label)}
      {@const why = idle()}
      <DropdownItem
        class="w-full px-3 py-1.5 text-left text-base text-ink enabled:hover:bg-soft disabled:opacity-45"
        disabled={why !== null}
        {...hint(why)}
        onclick={() => {
          opened = '';
          run();
        }}>{label}</DropdownItem
      >
    {/each}
  </Dropdown>
{/snippet}
{#snippet divider()}<span class="h-5 border-l border-l-line"></span>{/snippet}
<FindLensDialog bind:open={finding} pick={give} />
<HouseDialog bind:open={house} {job} frames={ids} />
<PrepareDialog bind:open={preparing} {job} {ratios} frames={ready} />
<MatchDialog
  bind:open={matching}
  {job}
  frames={ready}
  all={cards.map(({ frame }) => frame).filter(({ state }) => state === 'ready')}
/>
<HandOverDialog bind:open={handing} {job} frames={ready} />
<SendDialog bind:open={sending} {job} frames={ids} />
<MeasureDialog bind:open={measuring} frames={ready} />
<StraightenDialog bind:open={straightening} frames={ready} />
<Modal title="Name the room" bind:open={naming} size="xs">
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void nameRooms();
    }}
  >
    <Label
      >What {count(selected.size)}
      {selected.size === 1 ? 'shows' : 'show'}, for file names<Input
        maxlength={60}
        placeholder="Kitchen"
        bind:value={room}
      /></Label
    >
    <Button type="submit">Name {selected.size === 1 ? 'it' : 'them'}</Button>
  </form>
</Modal>
