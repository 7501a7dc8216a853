/** What is found in the picture by itself. */
import type { Guide } from '../guide.ts';
import { findSky } from '../sky/find-sky.ts';

export const FOUND = ['sky'] as const;
export type FoundName = (typeof FOUND)[number];

export const foundProperties = { what: { enum: FOUND } } as const;

export interface Found {
  what: FoundName;
}

export function drawFound(_: Found, out: Float32Array, guide: Guide): void {
  out.set(findSky(guide));
}
