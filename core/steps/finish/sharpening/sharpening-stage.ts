/**
 * Sharpening of light, at the size that a tile has: unsharp masking of the root of light above the noise of reading, in which
 * noise is alike everywhere (Anscombe 1948), kept to structures that noise does not explain and within what lies about each pixel.
 * Where it undoes the blur of the lens, what is added is what Richardson–Lucy deconvolution finds, with the same limits.
 * It acts on the light of the scene: what follows is monotone, so that what has no halo here has none in the picture, and a
 * change of tone does not redo it.
 */
import { halfDiagonal } from '../../../math/frame-geometry.ts';
import type { FrameFacts } from '../../../optics/frame-facts.ts';
import { noiseOf } from '../../../optics/noise.ts';
import { inArena } from '../../../picture/kernels/arena.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { gaussianWeights } from '../../../math/gaussian-weights.ts';
import { sharpeningRoom } from '../../../picture/output/sharpen-stage.ts';
import { weightsAsGrey } from '../../../picture/output/show-weights.ts';
import { type LensBlur, blurredBy, deconvolutionReach } from './lens-blur.ts';
import { addresses } from '../../../picture/tile/planes.ts';
import type { NeighbourhoodStage } from '../../../picture/tile/stage.ts';
import { RENDITION, type Rendition } from '../../../settings/rendition.ts';
import type { Tile } from '../../../picture/tile/tile.ts';
import { type FinishSettings, SENSORS_OWN } from '../step.ts';

export interface SharpeningGiven {
  recipe: { rendition: Rendition; finish: FinishSettings };
  facts: Pick<FrameFacts, 'noise' | 'rendering' | 'iso' | 'size'>;
  plan: { softness: LensBlur | null };
}

export interface SharpeningData {
  /** A pixel of the frame, in upright units. */
  one: number;
  /** Standard deviation of the blur, in upright units. */
  radius: number;
  /** Share of the difference from the blur that is added. */
  amount: number;
  /** Share of the range of the nine pixels about one by which it may leave it. */
  halo: number;
  /** Share of what a pixel stands out by from both its neighbours, as texture does and no edge, that it may gain. */
  texture: number;
  /** Added to light before its root is taken. */
  floor: number;
  /** Standard deviation of the noise that is left in that root, at full size. */
  noise: number;
  /** Ranges, in deviations of noise, from which on structures are sharpened, and fully so. */
  from: number;
  sure: number;
  /** Ranges, in shares of the root itself, below which nothing is an edge. */
  edge: number;
  /** The blur that is undone; null: contrast is added instead. */
  blur: LensBlur | null;
  /** What is sharpened afterwards. */
  then?: SharpeningData;
  /** For looking at it, never for delivery: where it acts, as grey, in place of the picture. */
  show?: true;
}

/** What is added at 100 %. */
const MOST = 2;
const MOST_HALO = 0.3;
/** What texture may gain at 100 %: its contrast can be more than doubled. */
const MOST_TEXTURE = 1.5;
/** Ranges from which on structures are told from noise, at no fine detail and at all of it: nine values of it span three. */
const COARSE = 10;
const FINE = 1.2;
/** How much more it takes to be sure. */
const SURE = 2;
/** Range of the root at an edge of which "edges only" leaves half, at 100 %. */
const EDGE = 0.2;
/** Deviation of noise that stays, of the sensor's own, where as much as that asks for or more was taken out. */
const NOISE_LEFT = 0.55;
/** A blur of fewer pixels changes nothing. */
const LEAST_RADIUS = 0.25;

const noiseLeft = (taken: number): number => 1 - (1 - NOISE_LEFT) * Math.min(1, taken / SENSORS_OWN);

/** Share of the contrast from each pixel to the next that is gone after a blur of so many pixels. */
function finestLeft(radius: number): number {
  const { weights, reach } = gaussianWeights(radius);
  const kept = weights.reduce((sum, weight, i) => sum + ((i - reach) % 2 === 0 ? weight : -weight), 0);
  return 1 - kept ** 2;
}

export function sharpeningDataOf(
  { sharpening, radius, detail, edges, halo, noise }: FinishSettings,
  facts: SharpeningGiven['facts'],
  rendition: Rendition,
  blur: LensBlur | null = null
): SharpeningData {
  const { gain, read } = noiseOf(facts);
  const from = COARSE * (FINE / COARSE) ** (detail / 100);
  const one = 1 / halfDiagonal(facts.size);
  const present = rendition === RENDITION;
  // A narrow blur hardly differs from what it blurs: what it leaves of the finest is made up for.
  const added = blur ? 1 : MOST / (present ? finestLeft(radius) : 1);
  return {
    one,
    radius: radius * one,
    amount: (added * sharpening) / 100,
    blur,
    halo: (MOST_HALO * halo) / 100,
    // Before, texture was held as edges are.
    texture: present ? (MOST_TEXTURE * sharpening) / 100 : 0,
    floor: read ** 2 / gain,
    // That of a site: the balance of white multiplies it, demosaicing and the mean of the colours lessen it as much.
    noise: (noiseLeft(noise) * Math.sqrt(gain)) / 2,
    from,
    sure: SURE * from,
    edge: (EDGE * edges) / 100
  };
}

/** Pixels that one depends on to each side. */
export function sharpeningReach(data: SharpeningData, pixel: number): number {
  return reachOfOne(data, pixel) + (data.then ? reachOfOne(data.then, pixel) : 0);
}

function reachOfOne(data: SharpeningData, pixel: number): number {
  if (data.blur) {
    const reach = deconvolutionReach(data.blur, data.one, pixel);
    return reach && reach + nearOf(data, pixel);
  }
  const deviation = data.radius / pixel;
  return deviation < LEAST_RADIUS ? 0 : gaussianWeights(deviation).reach + nearOf(data, pixel);
}

export const sharpeningStage: NeighbourhoodStage<'sharpening', SharpeningGiven, SharpeningData> = {
  name: 'sharpening',
  kind: 'neighbourhood',
  atRestOnly: ({ show }) => !show,
  prepare({ recipe: { rendition, finish }, facts, plan: { softness } }) {
    if (!finish.enabled || finish.sharpening === 0) return null;
    const own = finish.radius / halfDiagonal(facts.size);
    const blur = softness ?? { middle: own, corners: own };
    const contrast = sharpeningDataOf(finish, facts, rendition);
    if (finish.sharpeningKind === 'contrast') return contrast;
    const undone = sharpeningDataOf(finish, facts, rendition, blur);
    return finish.sharpeningKind === 'both' ? { ...undone, then: contrast } : undone;
  },
  reach: sharpeningReach,
  apply: sharpenTile
};

/** Pixels to the neighbours that one is kept within: where it is shown enlarged, they are those of the frame. */
const nearOf = ({ one }: Pick<SharpeningData, 'one'>, pixel: number): number =>
  Math.max(1, Math.round(one / pixel));

/** Sharpens pixels of a tile, in place. */
export function sharpenTile(tile: Sharpened, data: SharpeningData): void {
  sharpenOnce(tile, data);
  if (data.then && !data.show) sharpenOnce(tile, data.then);
}

type Sharpened = Pick<Tile, 'width' | 'height' | 'r' | 'g' | 'b' | 'valid' | 'view' | 'mesh' | 'size'>;

function sharpenOnce(tile: Sharpened, data: SharpeningData): void {
  const { one, radius, amount, blur, halo, texture, floor, noise, from, sure, edge, show } = data;
  const { width, height, valid, view, r, g, b } = tile;
  const { pixel } = view;
  if (reachOfOne(data, pixel) === 0) {
    if (show) for (const plane of [r, g, b]) plane.fill(0);
    return;
  }
  const { weights, reach } = blur ? { weights: [1], reach: 0 } : gaussianWeights(radius / pixel);
  // A pixel that is the mean of several has less noise.
  const own = noise / Math.max(1, pixel / one);
  inArena((arena) => {
    kernels().sharpenLight(
      ...addresses(tile),
      addressOf(valid),
      width,
      height,
      arena.addressOf(weights),
      reach,
      nearOf({ one }, pixel),
      amount,
      halo,
      texture,
      floor,
      from * own,
      sure * own,
      edge,
      show ? 1 : 0,
      ...blurredBy(tile, blur, one, arena),
      sharpeningRoom(arena, tile, blur ? 1 : 0)
    );
    if (show) weightsAsGrey(arena)(tile);
  });
}
