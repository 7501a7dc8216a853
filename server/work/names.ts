/** Kinds of work that are queued. A key says what it is to be done to, and is asked for once at a time. */
export const PREPARE = 'prepare-frame';
export const MEASURE = 'measure-frame';
export const DELIVER = 'deliver-frame';

export type WorkName = typeof PREPARE | typeof MEASURE | typeof DELIVER;
