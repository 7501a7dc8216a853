/** Kinds of work that are queued. A key says what it is to be done to, and is asked for once at a time. */
export const PREPARE = 'prepare-frame';
export const MEASURE = 'measure-frame';
export const DELIVER = 'deliver-frame';
export const HAND_OVER = 'hand-over-frame';

export const WORK_NAMES = [PREPARE, MEASURE, DELIVER, HAND_OVER] as const;
export type WorkName = (typeof WORK_NAMES)[number];
