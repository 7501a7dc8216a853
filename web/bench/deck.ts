/** What the deck of any step is given. */
import type { Job } from '$server/jobs/jobs.ts';
import type Sheet from './Sheet.svelte';
import type { Bench } from './bench-state.svelte.ts';

export interface OtherFrame {
  id: string;
  name: string;
  lens: string | null;
  focalLength: number | null;
  taken: string | null;
  /** Light that the exposure lets in, in EV. */
  exposure: number | null;
}

export interface DeckProps {
  bench: Bench;
  sheet: Sheet;
  job: Job;
  ready: OtherFrame[];
}
