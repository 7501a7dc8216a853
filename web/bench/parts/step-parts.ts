/** What a step brings to the bench: its deck, what lies over the picture, its tool and its commands. */
import type { Component } from 'svelte';
import type { Job } from '$server/jobs/jobs.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { Command } from '../controls/commands.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { SheetHandle } from '../sheet/sheet-handle.ts';
import type { SheetTool } from '../sheet/sheet-tool.ts';

export interface OtherFrame {
  id: string;
  name: string;
  lens: string | null;
  focalLength: number | null;
  taken: string | null;
  /** Light that the exposure lets in, in EV. */
  exposure: number | null;
}

export interface DeckProps<T extends SheetTool = SheetTool> {
  bench: Bench;
  sheet: SheetState;
  tool: T;
  job: Job;
  ready: OtherFrame[];
}

export interface OverlayProps<T extends SheetTool = SheetTool> {
  bench: Bench;
  sheet: SheetState;
  tool: T;
}

export interface StepParts<T extends SheetTool = SheetTool> {
  deck: Component<DeckProps<T>>;
  /** Shapes over the picture while the step is in hand. */
  overlay: Component<OverlayProps<T>> | null;
  /** What of it the keyboard can take. */
  handles?(bench: Bench, sheet: SheetState): readonly SheetHandle[];
  createTool(bench: Bench, sheet: SheetState): T;
  commands(bench: Bench, sheet: SheetState, tool: T): Command[];
}

/** Hides which tool the parts work with: each is only ever given its own. */
export const stepParts = <T extends SheetTool>(parts: StepParts<T>): StepParts =>
  parts as unknown as StepParts;
