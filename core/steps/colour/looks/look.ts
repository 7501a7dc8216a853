/** A look: colours as a display shows them to others, as a table over their range. */
import type { TileLook } from '../../../picture/tile/tile.ts';

export const LOOK_SPACES = ['srgb', 'linear'] as const;
export type LookSpace = (typeof LOOK_SPACES)[number];

export interface Look extends TileLook {
  name: string;
}

/** Nodes a side that are taken. */
export const MOST_NODES = { '1D': 65536, '3D': 65 } as const;

/** Values of a look of a kind and size. */
export const valuesOf = ({ kind, size }: Pick<Look, 'kind' | 'size'>): number =>
  3 * (kind === '1D' ? size : size ** 3);
