/** What a frame can be in its job, its key, and its shape where there is no room for words. */
import type { FrameChoiceName } from '$server/frames/frame-row.ts';

export type { FrameChoiceName };
export const CHOICES: readonly FrameChoiceName[] = ['chosen', 'undecided', 'left out'];
export const CHOICE_KEYS: Record<FrameChoiceName, string> = { chosen: 'c', undecided: 'i', 'left out': 'o' };
export const CHOICE_SHAPES: Record<FrameChoiceName, string> = { chosen: '◆', undecided: '', 'left out': '╱' };
