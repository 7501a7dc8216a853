/**
 * Lens profiles: what is known of a lens, as a table over focal length. Radial terms are in field units
 * of the sensor they were measured on, whose half diagonal the profile names; they are rescaled for others.
 */
import type { FalloffTerms } from './falloff.ts';
import type { RadialTerms } from './brown.ts';

export interface LensProfileNode {
  /** Focal length in millimetres. */
  focalLength: number;
  distortion: [number, number, number];
  falloff: [number, number, number];
}

export interface LensProfile {
  id: string;
  maker: string;
  lens: string;
  /** Half the diagonal, in millimetres, of the sensor on which the profile was measured. */
  sensorHalfDiagonal: number;
  nodes: LensProfileNode[];
}

export const lensProfileSchema = {
  $id: 'lens-profile',
  type: 'object',
  additionalProperties: false,
  required: ['id', 'maker', 'lens', 'sensorHalfDiagonal', 'nodes'],
  properties: {
    id: { type: 'string', pattern: '^[a-z0-9-]{1,80}$' },
    maker: { type: 'string', maxLength: 100 },
    lens: { type: 'string', minLength: 1, maxLength: 200 },
    sensorHalfDiagonal: { type: 'number', minimum: 1, maximum: 100 },
    nodes: {
      type: 'array',
      minItems: 1,
      maxItems: 200,
      items: {
        type: 'object',
        additionalProperties: false,
        required: ['focalLength', 'distortion', 'falloff'],
        properties: {
          focalLength: { type: 'number', exclusiveMinimum: 0, maximum: 2000 },
          distortion: { $ref: '#/definitions/terms' },
          falloff: { $ref: '#/definitions/terms' }
        }
      }
    }
  },
  definitions: {
    terms: {
      type: 'array',
      minItems: 3,
      maxItems: 3,
      items: { type: 'number', minimum: -10, maximum: 10 }
    }
  }
} as const;

export interface LensTerms {
  distortion: RadialTerms;
  falloff: FalloffTerms;
}

const blend = (a: readonly number[], b: readonly number[], t: number): [number, number, number] => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t
];

/**
 * Terms at a focal length, linear between the nodes on either side and held beyond the ends; `halfDiagonal`
 * is that of the sensor in use (a smaller sensor sees only the middle of the field).
 */
export function profileTerms(profile: LensProfile, focalLength: number, halfDiagonal: number): LensTerms {
  const nodes = [...profile.nodes].sort((a, b) => a.focalLength - b.focalLength);
  const above = nodes.findIndex((node) => node.focalLength >= focalLength);
  const b = above < 0 ? nodes[nodes.length - 1] : nodes[above];
  const a = above <= 0 ? b : nodes[above - 1];
  const span = b.focalLength - a.focalLength;
  const t = span > 0 ? (focalLength - a.focalLength) / span : 0;
  const s2 = (halfDiagonal / profile.sensorHalfDiagonal) ** 2;
  const rescale = (terms: [number, number, number]): [number, number, number] => [
    terms[0] * s2,
    terms[1] * s2 ** 2,
    terms[2] * s2 ** 3
  ];
  return {
    distortion: rescale(blend(a.distortion, b.distortion, t)),
    falloff: rescale(blend(a.falloff, b.falloff, t))
  };
}
