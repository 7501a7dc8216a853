/** Clipping of any channel, or of one alone. */
export const CLIPPING = ['off', 'any', 'red', 'green', 'blue'] as const;
export type Clipping = (typeof CLIPPING)[number];
