/**
 * Lens profiles: what is known of a lens, as tables over focal length (falloff and softness also over aperture, falloff over distance).
 * Terms are in field units of the sensor they were measured on, whose half diagonal the profile names; they are rescaled
 * for others. Radial terms keep scale 1 in the middle of the picture, so that the focal length stays what it is.
 */
import type { Point } from '../math/frame-geometry.ts';
import type { GainMap, LensShading } from './falloff.ts';
import { type Lateral, type LensShape, foldRadius } from './lens-model.ts';
import { LENS_PROJECTIONS, type LensProjection } from './lens-projection.ts';

export interface DistortionNode {
  /** Focal length as engraved, in millimetres. */
  focalLength: number;
  /** Focal length as measured, where it differs. */
  realFocalLength?: number;
  /** Coefficients of r¹…r⁶. */
  terms: number[];
  centre?: Point;
  tangential?: [number, number];
}

export interface LateralNode {
  focalLength: number;
  /** Coefficients of r⁰…r⁴ of the relative size, less 1. */
  red: number[];
  blue: number[];
}

export interface FalloffNode {
  focalLength: number;
  aperture?: number;
  /** Metres. */
  distance?: number;
  /** Coefficients of r², r⁴, r⁶ of the transmitted light. */
  terms: number[];
  red?: number[];
  blue?: number[];
}

/** How softly a lens draws: the standard deviation of its blur beyond a pixel's own width, in micrometres on the sensor. */
export interface SoftnessNode {
  focalLength: number;
  aperture?: number;
  middle: number;
  corners: number;
}

export interface LensProfile {
  id: string;
  maker: string;
  lens: string;
  mounts?: string[];
  /** Camera models with this lens built in. */
  bodies?: string[];
  /** Half the diagonal, in millimetres, of the sensor on which the profile was measured. */
  sensorHalfDiagonal: number;
  projection: LensProjection;
  distortion: DistortionNode[];
  lateral: LateralNode[];
  falloff: FalloffNode[];
  softness: SoftnessNode[];
  gainMap?: GainMap;
  note?: string;
}

const numbers = (minItems: number, maxItems: number, limit: number) =>
  ({
    type: 'array',
    minItems,
    maxItems,
    items: { type: 'number', minimum: -limit, maximum: limit }
  }) as const;
const focalLength = { type: 'number', exclusiveMinimum: 0, maximum: 5000 } as const;
const micrometres = { type: 'number', minimum: 0, maximum: 100 } as const;
const words = {
  type: 'array',
  maxItems: 100,
  items: { type: 'string', minLength: 1, maxLength: 100 }
} as const;
const table = (properties: Record<string, object>, required: string[]) => ({
  type: 'array',
  maxItems: 2000,
  items: { type: 'object', additionalProperties: false, required, properties }
});

export const lensProfileSchema = {
  $id: 'lens-profile',
  title: 'Lens profile',
  description:
    'What is known of one lens. Radii are fractions of half the diagonal of the sensor it was measured on.',
  type: 'object',
  additionalProperties: false,
  required: ['id', 'maker', 'lens', 'sensorHalfDiagonal'],
  properties: {
    id: { type: 'string', pattern: '^[a-z0-9-]{1,80}$', description: 'Short name, unique in a catalogue.' },
    maker: { type: 'string', maxLength: 100 },
    lens: {
      type: 'string',
      minLength: 1,
      maxLength: 200,
      description: 'Name as the file or the barrel has it.'
    },
    mounts: { ...words, default: [] },
    bodies: { ...words, default: [], description: 'Camera models with this lens built in.' },
    sensorHalfDiagonal: { type: 'number', minimum: 1, maximum: 100, description: 'Millimetres.' },
    projection: { enum: LENS_PROJECTIONS, default: 'rectilinear' },
    distortion: {
      ...table(
        {
          focalLength,
          realFocalLength: focalLength,
          terms: {
            ...numbers(1, 6, 50),
            description: 'Coefficients c1…c6 of d = r (1 + c1 r + c2 r² + … + c6 r⁶).'
          },
          centre: numbers(2, 2, 0.5),
          tangential: numbers(2, 2, 1)
        },
        ['focalLength', 'terms']
      ),
      default: []
    },
    lateral: {
      ...table(
        {
          focalLength,
          red: {
            ...numbers(1, 5, 1),
            description:
              'Coefficients l0…l4: the red picture is larger than the green one by l0 + l1 r + … + l4 r⁴.'
          },
          blue: numbers(1, 5, 1)
        },
        ['focalLength', 'red', 'blue']
      ),
      default: []
    },
    falloff: {
      ...table(
        {
          focalLength,
          aperture: { type: 'number', exclusiveMinimum: 0, maximum: 128 },
          distance: { type: 'number', exclusiveMinimum: 0, description: 'Metres.' },
          terms: {
            ...numbers(1, 5, 50),
            description: 'Coefficients of r², r⁴, r⁶ … of the transmitted light, less 1.'
          },
          red: { ...numbers(1, 5, 50), description: 'The same for red against green: colour shading.' },
          blue: numbers(1, 5, 50)
        },
        ['focalLength', 'terms']
      ),
      default: []
    },
    softness: {
      ...table(
        {
          focalLength,
          aperture: { type: 'number', exclusiveMinimum: 0, maximum: 100 },
          middle: {
            ...micrometres,
            description: 'Standard deviation of the blur in the middle, in micrometres on the sensor.'
          },
          corners: {
            ...micrometres,
            description: 'The same in the corners; it grows with the square of the radius.'
          }
        },
        ['focalLength', 'middle', 'corners']
      ),
      default: []
    },
    gainMap: {
      type: 'object',
      additionalProperties: false,
      required: ['columns', 'rows', 'values'],
      description: 'Gains on a grid over the whole frame: red, green, blue for each node, row by row.',
      properties: {
        columns: { type: 'integer', minimum: 1, maximum: 256 },
        rows: { type: 'integer', minimum: 1, maximum: 256 },
        values: { type: 'array', maxItems: 196608, items: { type: 'number', minimum: 0, maximum: 100 } }
      }
    },
    note: { type: 'string', maxLength: 2000 }
  }
} as const;

/** A profile as it may be handed in: tables that say nothing can be left out. */
export type PartialProfile = Pick<LensProfile, 'id' | 'maker' | 'lens' | 'sensorHalfDiagonal'> &
  Partial<LensProfile>;

export function completeProfile(partial: PartialProfile): LensProfile {
  return { projection: 'rectilinear', distortion: [], lateral: [], falloff: [], softness: [], ...partial };
}

/** What is known of a shot that a profile depends on. */
export interface ShotFacts {
  focalLength?: number | null;
  aperture?: number | null;
  /** Metres. */
  distance?: number | null;
  /** Half the diagonal, in millimetres, of the sensor in use. */
  sensorHalfDiagonal: number;
}

export interface LensTerms {
  projection: LensProjection;
  distortion: Omit<LensShape, 'projection' | 'focal'> | null;
  /** Measured focal length in millimetres, where the profile gives one. */
  realFocalLength: number | null;
  lateral: Lateral | null;
  shading: LensShading | null;
  /** Standard deviation of the lens's blur in the middle and in the corners, in field units. */
  softness: { middle: number; corners: number } | null;
  /** What the user should know of how the profile was applied. */
  notices: string[];
}

interface Between<T> {
  a: T;
  b: T;
  t: number;
}

/** Focal lengths this far outside a profile's range still count as rounding in the file. */
export const FOCAL_TOLERANCE = 0.04;

function between<T extends { focalLength: number }>(nodes: readonly T[], focal: number): Between<T> {
  const sorted = [...nodes].sort((p, q) => p.focalLength - q.focalLength);
  const above = sorted.findIndex((node) => node.focalLength >= focal);
  const b = above < 0 ? sorted[sorted.length - 1] : sorted[above];
  const a = above <= 0 ? b : sorted[above - 1];
  const span = b.focalLength - a.focalLength;
  return { a, b, t: span > 0 ? (focal - a.focalLength) / span : 0 };
}

function blend(a: readonly number[], b: readonly number[], t: number): number[] {
  return Array.from({ length: Math.max(a.length, b.length) }, (_, i) => {
    const from = a[i] ?? 0;
    return from + ((b[i] ?? 0) - from) * t;
  });
}

/** Coefficients of powers first, first + step, … of a radius measured in units `scale` times smaller. */
const rescale = (terms: readonly number[], scale: number, first: number, step = 1): number[] =>
  terms.map((term, i) => term * scale ** (first + i * step));

/** What a node may be for. */
type ShotNode = Pick<FalloffNode, 'focalLength' | 'aperture' | 'distance'>;

/** Distances that say "far away" in calibration data are in the hundreds of metres: what counts is their inverse. */
const nearness = (distance: number | null | undefined): number => (distance ? 1 / distance : 0);

/**
 * Weights of nodes by inverse distance (Shepard 1968) in focal length, aperture and distance, each as an
 * exposure-like logarithm or an inverse, so that equal steps matter equally.
 */
function weightsApart(nodes: readonly ShotNode[], shot: ShotFacts, focal: number): number[] {
  const focals = nodes.map((node) => Math.log(node.focalLength));
  const span = Math.max(...focals) - Math.min(...focals) || 1;
  const apart = nodes.map((node) => {
    const f = (Math.log(node.focalLength) - Math.log(focal)) / span;
    const stops = node.aperture && shot.aperture ? (2 * Math.log2(node.aperture / shot.aperture)) / 8 : 0;
    const near = node.distance ? nearness(node.distance) - nearness(shot.distance) : 0;
    return Math.hypot(f, stops, near * 0.1);
  });
  const exact = apart.findIndex((d) => d < 1e-6);
  if (exact >= 0) return nodes.map((_, i) => (i === exact ? 1 : 0));
  const weights = apart.map((d) => d ** -3.5);
  const sum = weights.reduce((a, b) => a + b);
  return weights.map((weight) => weight / sum);
}

/** Linear over focal length, where nodes differ in nothing else. */
function shotWeights(nodes: readonly ShotNode[], shot: ShotFacts, focal: number): number[] {
  if (nodes.some((node) => node.aperture || node.distance)) return weightsApart(nodes, shot, focal);
  const { a, b, t } = between(nodes, focal);
  return nodes.map((node) => (node === a ? 1 - t : 0) + (node === b ? t : 0));
}

function falloffTerms(nodes: readonly FalloffNode[], shot: ShotFacts, focal: number): LensShading {
  const mix = (pick: (node: FalloffNode) => readonly number[], weights: readonly number[]): number[] => {
    const out = new Array<number>(Math.max(...nodes.map((node) => pick(node).length))).fill(0);
    nodes.forEach((node, n) => pick(node).forEach((value, i) => (out[i] += value * weights[n])));
    return out;
  };
  const weights = shotWeights(nodes, shot, focal);
  const coloured = nodes.some((node) => node.red || node.blue);
  return {
    terms: mix((node) => node.terms, weights),
    ...(coloured ? { red: mix((n) => n.red ?? [], weights), blue: mix((n) => n.blue ?? [], weights) } : {})
  };
}

/** Shortest and longest focal length that a profile knows, or null when it depends on none. */
export function focalRange(profile: LensProfile): [number, number] | null {
  const known = profile.distortion.length > 0 ? profile.distortion : [...profile.lateral, ...profile.falloff];
  if (known.length === 0) return null;
  const focals = known.map((node) => node.focalLength);
  return [Math.min(...focals), Math.max(...focals)];
}

/** Half the diagonal that a sensor must exceed the measured one by before the profile has to guess at its corners. */
const LARGER_SENSOR = 1.04;

/** A profile for one shot: linear between focal lengths, held beyond the ends (with a notice). */
export function profileTerms(profile: LensProfile, shot: ShotFacts): LensTerms {
  const scale = shot.sensorHalfDiagonal / profile.sensorHalfDiagonal;
  const range = focalRange(profile);
  const focal = shot.focalLength ?? range?.[0] ?? 50;
  const notices: string[] = [];
  const terms: LensTerms = {
    projection: profile.projection,
    distortion: null,
    realFocalLength: null,
    lateral: null,
    shading: null,
    softness: null,
    notices
  };
  if (range && (focal < range[0] * (1 - FOCAL_TOLERANCE) || focal > range[1] * (1 + FOCAL_TOLERANCE))) {
    const nearest = focal < range[0] ? range[0] : range[1];
    notices.push(
      `${focal} mm lies outside the profile (${range[0]}–${range[1]} mm): the figures of ${nearest} mm are used.`
    );
  }
  if (scale > LARGER_SENSOR) {
    notices.push('The profile was measured on a smaller sensor: the corners are a guess.');
  }
  if (profile.distortion.length > 0) {
    const { a, b, t } = between(profile.distortion, focal);
    const centre = blend(a.centre ?? [0, 0], b.centre ?? [0, 0], t);
    const tangential = blend(a.tangential ?? [0, 0], b.tangential ?? [0, 0], t);
    terms.distortion = {
      terms: rescale(blend(a.terms, b.terms, t), scale, 1),
      centre: [centre[0] / scale, centre[1] / scale],
      tangential: [tangential[0] * scale, tangential[1] * scale]
    };
    if (a.realFocalLength && b.realFocalLength)
      terms.realFocalLength = a.realFocalLength + (b.realFocalLength - a.realFocalLength) * t;
  } else if (profile.projection !== 'rectilinear') {
    terms.distortion = { terms: [], centre: [0, 0], tangential: [0, 0] };
  }
  if (profile.lateral.length > 0) {
    const { a, b, t } = between(profile.lateral, focal);
    terms.lateral = {
      red: rescale(blend(a.red, b.red, t), scale, 0),
      blue: rescale(blend(a.blue, b.blue, t), scale, 0)
    };
  }
  if (profile.falloff.length > 0) {
    const { terms: green, red, blue } = falloffTerms(profile.falloff, shot, focal);
    terms.shading = {
      terms: rescale(green, scale, 2, 2),
      ...(red ? { red: rescale(red, scale, 2, 2) } : {}),
      ...(blue ? { blue: rescale(blue, scale, 2, 2) } : {})
    };
  }
  if (profile.softness.length > 0) {
    const weights = shotWeights(profile.softness, shot, focal);
    const mean = (of: 'middle' | 'corners'): number =>
      profile.softness.reduce((sum, node, i) => sum + node[of] * weights[i], 0);
    const unit = 1000 * shot.sensorHalfDiagonal;
    const [middle, corners] = [mean('middle'), mean('corners')];
    terms.softness = { middle: middle / unit, corners: (middle + (corners - middle) * scale ** 2) / unit };
  }
  if (profile.gainMap) terms.shading = { terms: [], ...terms.shading, map: profile.gainMap };
  return terms;
}

/** What is wrong with a profile beyond its form, in words, or null: a distortion that turns back inside the frame. */
export function profileFault(profile: LensProfile): string | null {
  for (const node of profile.distortion) {
    const radius = foldRadius({ terms: node.terms });
    if (radius !== null) {
      return (
        `The distortion at ${node.focalLength} mm folds back at ${(radius * 100).toFixed(0)} % of the way from the ` +
        'centre to the corner: beyond that, two places of the picture would land on one. Check the signs of its terms.'
      );
    }
  }
  const { gainMap } = profile;
  if (gainMap && gainMap.values.length !== gainMap.columns * gainMap.rows * 3)
    return 'The gain map needs three values for each of its nodes.';
  return null;
}
