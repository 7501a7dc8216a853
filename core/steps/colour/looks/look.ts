/** A look: colours as a display shows them to others, as a table over their range. */
export const LOOK_SPACES = ['srgb', 'linear'] as const;
export type LookSpace = (typeof LOOK_SPACES)[number];

/** A table of colours that is laid over tiles. */
export interface LookTable {
  /** Channel by channel, or all three together. */
  kind: '1D' | '3D';
  /** Nodes of each side. */
  size: number;
  /** Values of the first and the last node, of red, green and blue. */
  from: readonly [number, number, number];
  to: readonly [number, number, number];
  /** What its colours are: as encoded for sRGB displays, or linear light of its primaries. */
  space: LookSpace;
  /** Red, green and blue of each node; of a cube red changes fastest. */
  values: Float32Array;
}

export interface Look extends LookTable {
  name: string;
}

/** Nodes a side that are taken. */
export const MOST_NODES = { '1D': 65536, '3D': 65 } as const;

/** Values of a look of a kind and size. */
export const valuesOf = ({ kind, size }: Pick<Look, 'kind' | 'size'>): number =>
  3 * (kind === '1D' ? size : size ** 3);
