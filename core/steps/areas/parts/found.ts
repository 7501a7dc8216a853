/** What is found in the picture by itself. */
import type { Guide } from '../guide.ts';
import { findSky } from '../sky/find-sky.ts';
import { findWindows } from '../windows/find-windows.ts';

export const FOUND = ['sky', 'windows'] as const;
export type FoundName = (typeof FOUND)[number];

export const foundProperties = { what: { enum: FOUND } } as const;

export interface Found {
  what: FoundName;
}

const FINDERS: Record<FoundName, (guide: Guide) => Float32Array> = { sky: findSky, windows: findWindows };

export function drawFound({ what }: Found, out: Float32Array, guide: Guide): void {
  out.set(FINDERS[what](guide));
}
