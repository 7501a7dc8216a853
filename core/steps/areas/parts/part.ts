/** The kinds of parts that shapes are built from, and how each is drawn. */
import type { Grid } from '../../../picture/tile/grid.ts';
import type { Guide } from '../guide.ts';
import { type Beside, besideProperties, drawBeside } from './beside.ts';
import { type Brush, brushProperties, drawBrush } from './brush.ts';
import { type Found, drawFound, foundProperties } from './found.ts';
import { type Gradient, drawGradient, gradientProperties } from './gradient.ts';
import { type Outline, drawOutline, outlineOrigin, outlineProperties } from './outline.ts';
import { hashOf } from '../../../settings/hash.ts';
import { type Pictured, keptOfPicture } from '../pictured.ts';
import { type Meeting, partSchema } from './part-base.ts';
import { type Radial, drawRadial, radialProperties } from './radial.ts';
import {
  type ColourRange,
  type LightRange,
  colourProperties,
  colourWidths,
  drawColourRange,
  drawLightRange,
  lightProperties
} from './ranges.ts';

interface Kinds {
  gradient: Gradient;
  radial: Radial;
  polygon: Outline;
  lasso: Outline;
  brush: Brush;
  light: LightRange;
  colour: ColourRange;
  beside: Beside;
  found: Found;
}
export type PartKind = keyof Kinds;
export type PartOf<K extends PartKind> = { id: string; kind: K; meets: Meeting } & Kinds[K];
export type Part = { [K in PartKind]: PartOf<K> }[PartKind];

export const PART_SCHEMAS = [
  partSchema('gradient', gradientProperties),
  partSchema('radial', radialProperties),
  partSchema('polygon', outlineProperties, outlineOrigin),
  partSchema('lasso', outlineProperties),
  partSchema('brush', brushProperties),
  partSchema('light', lightProperties),
  partSchema('colour', colourProperties, colourWidths),
  partSchema('beside', besideProperties),
  partSchema('found', foundProperties)
] as const;

/** Parts that are slow to draw: those of the picture that were drawn last are kept. */
const SLOW: readonly PartKind[] = ['light', 'colour', 'found'];
const kept = keptOfPicture<Uint8Array>(3);

/** Writes how much of each cell belongs to a part, 0..1; the picture is looked at only where the part goes by it. */
export function drawPart(part: Part, grid: Grid, of: Pictured, guide: () => Guide, out: Float32Array): void {
  if (of.picture === null || !SLOW.includes(part.kind)) return drawAnew(part, grid, of, guide, out);
  const key = `${grid.width} ${grid.height} ${hashOf({ ...part, id: '', meets: '' })}`;
  const shares = kept(of, key, () => {
    drawAnew(part, grid, of, guide, out);
    return Uint8Array.from(out, (share) => 255 * Math.min(1, Math.max(0, share)) + 0.5);
  });
  // As coarse the first time as later: a mask is the same whenever it is drawn.
  for (let i = 0; i < out.length; i++) out[i] = shares[i] / 255;
}

function drawAnew(part: Part, grid: Grid, of: Pictured, guide: () => Guide, out: Float32Array): void {
  switch (part.kind) {
    case 'gradient':
      return drawGradient(part, grid, out);
    case 'radial':
      return drawRadial(part, grid, out);
    case 'polygon':
    case 'lasso':
      return drawOutline(part, grid, out);
    case 'brush':
      return drawBrush(part, grid, of, guide, out);
    case 'light':
      return drawLightRange(part, out, guide());
    case 'colour':
      return drawColourRange(part, grid, out, guide());
    case 'beside':
      return drawBeside(part, grid, out);
    case 'found':
      return drawFound(part, out, guide());
  }
}
