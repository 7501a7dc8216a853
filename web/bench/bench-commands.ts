/** Commands of the bench that belong to no step. */
import { EVERY_STEP, type StepName, stepLabel } from '$core/recipe/steps.ts';
import { neutralRecipe, withNeutralStep } from '$core/recipe/switched-off.ts';
import { CHOICES, CHOICE_KEYS, type FrameChoiceName } from './state/choices.ts';
import type { Bench } from './state/bench-state.svelte.ts';
import type { Compare } from './compare/compare-state.svelte.ts';
import type { Command } from './controls/commands.ts';
import type { Room } from './room/room-state.svelte.ts';
import type { SheetState } from './sheet/sheet-state.svelte.ts';

export interface BenchActions {
  previous: (() => void) | null;
  next: (() => void) | null;
  choose(choice: FrameChoiceName): void;
  room: Room;
  compare: Compare;
  find(): void;
  help(): void;
  export(): void;
  handOver(): void;
  history(): void;
  house(): void;
  carry(): void;
  keep(): void;
}

export function benchCommands(bench: Bench, sheet: SheetState, actions: BenchActions): Command[] {
  const { view } = bench;
  const { compare, room } = actions;
  /** The clipping that was marked before it was marked for a moment. */
  let before: typeof view.clipping = 'off';
  const switchStep = (name: StepName): void => bench.change(name, { enabled: !bench.recipe[name].enabled });
  const picture = 'Picture';
  return [
    ...EVERY_STEP.map(({ name }, i): Command => ({
      id: `step ${name}`,
      label: `Step ${i + 1}: ${stepLabel(name)}`,
      group: 'Steps',
      keys: [String(i + 1)],
      run: () => (view.step = name)
    })),
    ...EVERY_STEP.map(({ name }): Command => ({
      id: `switch ${name}`,
      label: `Switch ${stepLabel(name)} on or off`,
      group: 'Steps',
      keys: [],
      run: () => switchStep(name)
    })),
    ...EVERY_STEP.map(({ name }): Command => ({
      id: `neutral ${name}`,
      label: `All of ${stepLabel(name)} back to neutral`,
      group: 'Steps',
      keys: [],
      run: () => bench.become((recipe) => withNeutralStep(recipe, name))
    })),
    {
      id: 'neutral',
      label: 'All of the frame back to neutral',
      group: 'Frame',
      keys: [],
      run: () => bench.become(neutralRecipe)
    },
    {
      id: 'undo',
      label: 'Undo',
      group: 'Frame',
      keys: ['$mod+z'],
      idle: () => (bench.canUndo ? null : 'There is nothing to undo.'),
      run: bench.undo
    },
    {
      id: 'redo',
      label: 'Redo',
      group: 'Frame',
      keys: ['$mod+Shift+z'],
      idle: () => (bench.canRedo ? null : 'There is nothing to redo.'),
      run: bench.redo
    },
    {
      id: 'history',
      label: 'History: steps and revisions',
      group: 'Frame',
      keys: ['y'],
      run: actions.history
    },
    {
      id: 'house',
      label: 'House settings: sets of steps of your own',
      group: 'Frame',
      keys: ['Shift+h'],
      run: actions.house
    },
    {
      id: 'carry',
      label: 'Carry steps over to other frames of the job',
      group: 'Frame',
      keys: ['Shift+d'],
      run: actions.carry
    },
    {
      id: 'keep',
      label: 'Keep this state as a revision',
      group: 'Frame',
      keys: ['Shift+y'],
      run: actions.keep
    },
    {
      id: 'previous',
      label: 'Previous frame',
      group: 'Frame',
      keys: ['a'],
      idle: () => (actions.previous ? null : 'This is the first frame.'),
      run: () => actions.previous?.()
    },
    {
      id: 'next',
      label: 'Next frame',
      group: 'Frame',
      keys: ['d'],
      idle: () => (actions.next ? null : 'This is the last frame.'),
      run: () => actions.next?.()
    },
    { id: 'export', label: 'Export this frame', group: 'Frame', keys: ['$mod+e'], run: actions.export },
    {
      id: 'hand-over',
      label: 'Hand this frame over to another program',
      group: 'Frame',
      keys: ['Shift+o'],
      run: actions.handOver
    },
    {
      id: 'as-shot',
      label: 'The frame as shot',
      group: picture,
      keys: ['q'],
      run: () => (view.asShot = true),
      release: () => (view.asShot = false)
    },
    {
      id: 'wipe',
      label: 'Wipe: the picture and another state across it',
      group: picture,
      keys: ['w'],
      run: () => compare.turn('wipe')
    },
    {
      id: 'beside',
      label: 'Side by side with another state',
      group: picture,
      keys: ['m'],
      run: () => compare.turn('beside')
    },
    {
      id: 'change',
      label: 'What changed, as a picture',
      group: picture,
      keys: ['Shift+m'],
      run: () => compare.turn('change')
    },
    {
      id: 'wipe-upright',
      label: 'Wipe: the line upright in the middle again',
      group: picture,
      keys: [],
      idle: () => (compare.way === 'wipe' ? null : 'The picture is not wiped.'),
      run: compare.setUpright
    },
    {
      id: 'step-off',
      label: 'The step in hand off, and on again',
      group: 'Steps',
      keys: ['z'],
      run: () => switchStep(view.step)
    },
    {
      id: 'zoom-toggle',
      label: 'Fit, or 1:1 at the pointer',
      group: picture,
      keys: ['f'],
      run: sheet.toggleZoom
    },
    { id: 'zoom-fit', label: 'Fit: show all of it', group: picture, keys: ['0'], run: sheet.showAll },
    {
      id: 'zoom-in',
      label: 'Zoom in',
      group: picture,
      keys: ['+', '=', 'Shift++'],
      run: () => sheet.zoomStep(1)
    },
    { id: 'zoom-out', label: 'Zoom out', group: picture, keys: ['-'], run: () => sheet.zoomStep(-1) },
    {
      id: 'hand',
      label: 'Move the picture by dragging',
      group: picture,
      keys: ['Space'],
      run: () => (view.hand = true),
      release: () => (view.hand = false)
    },
    ...(
      [
        ['left', 'h', 1, 0],
        ['right', 'k', -1, 0],
        ['up', 'u', 0, 1],
        ['down', 'j', 0, -1]
      ] as const
    ).map(([way, key, dx, dy]): Command => ({
      id: `look ${way}`,
      label: `Look further ${way === 'up' || way === 'down' ? way : `to the ${way}`}`,
      group: picture,
      keys: [key],
      idle: () => (sheet.fits ? 'All of the picture is seen: zoom in first.' : null),
      run: () => sheet.moveBy((dx * sheet.size.width) / 4, (dy * sheet.size.height) / 4)
    })),
    { id: 'grid', label: 'Grid', group: picture, keys: ['g'], run: () => (view.grid = !view.grid) },
    {
      id: 'clipping',
      label: 'Mark what is clipped: dots on light, hatching on dark',
      group: picture,
      keys: ['s'],
      run: () => (view.clipping = view.clipping === 'off' ? 'any' : 'off')
    },
    {
      id: 'clipping-held',
      label: 'Mark what is clipped, for a moment',
      group: picture,
      keys: ['Shift+s'],
      run() {
        before = view.clipping;
        view.clipping = 'any';
      },
      release: () => (view.clipping = before)
    },
    {
      id: 'only-clipping',
      label: 'See only what clips, while an end is dragged',
      group: picture,
      keys: ['Alt'],
      run: () => (view.onlyClipping = true),
      release: () => (view.onlyClipping = false)
    },
    { id: 'index', label: 'Show or hide the index', group: picture, keys: ['x'], run: room.showIndex },
    {
      id: 'fold',
      label: 'Fold the deck away, or bring it back',
      group: picture,
      keys: ['b'],
      run: room.fold
    },
    {
      id: 'alone',
      label: 'The picture alone, and back',
      group: picture,
      keys: ['v'],
      run: () => room.setAlone(!room.alone)
    },
    {
      id: 'alone-end',
      label: 'Back from the picture alone',
      group: picture,
      keys: ['Escape'],
      idle: () => (room.alone ? null : 'The picture is not alone.'),
      run: () => room.setAlone(false)
    },
    {
      id: 'readings',
      label: 'Readings under the picture alone',
      group: picture,
      keys: ['r'],
      idle: () => (room.alone ? null : 'The readings are there already.'),
      run: room.showReadings
    },
    ...CHOICES.map((choice): Command => ({
      id: `choice ${choice}`,
      label: `This frame is ${choice}`,
      group: 'Frame',
      keys: [CHOICE_KEYS[choice]],
      run: () => actions.choose(choice)
    })),
    { id: 'find', label: 'Find a command', group: 'Help', keys: ['/', '$mod+k'], run: actions.find },
    { id: 'help', label: 'All shortcuts', group: 'Help', keys: ['Shift+?', '?'], run: actions.help }
  ];
}
