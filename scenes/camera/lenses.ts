/** The demo camera and its lenses: true figures, which the shipped profiles state as well. */
import type { LensProfile } from '../../core/optics/profile.ts';
import { completeProfile } from '../../core/optics/profile.ts';
import { shippedProfiles } from '../../core/optics/shipped-profiles.ts';

export const SENSOR_HALF_DIAGONAL = Math.hypot(36, 24) / 2;
export const CAMERA = { make: 'Fenwright', model: 'F2' };

export interface DemoLens {
  maker: string;
  name: string;
  /** The truth about it. */
  profile: LensProfile;
  aperture: number;
  /** Coloured light that spills from very bright parts, as shares of red and blue, and how far, in field units. */
  spill?: { red: number; blue: number; reach: number };
  /** What it blurs more than a pixel's own width, in pixels, in the middle and in the corners. */
  blur?: { middle: number; corners: number };
  /** Share of all light that its faces spread over the picture. */
  glare?: number;
  /** False for a manual lens that writes nothing into the file. */
  writesData: boolean;
}

function shipped(id: string): LensProfile {
  const profile = shippedProfiles.find((p) => p.id === id);
  if (!profile) throw new Error(`No shipped profile is called ${id}.`);
  return profile;
}

/** A manual lens that no shipped profile knows: a wavy bow, strong falloff and strong colour edges. */
const BRINDLE_12 = completeProfile({
  id: 'brindle-12-f5-6',
  maker: 'Brindle Optical',
  lens: 'Brindle Optical 12 mm f/5.6',
  sensorHalfDiagonal: SENSOR_HALF_DIAGONAL,
  distortion: [{ focalLength: 12, terms: [0, -0.15, 0, 0.135, 0, -0.042], centre: [0.0025, -0.0015] }],
  lateral: [{ focalLength: 12, red: [2.2e-4, 0, 5e-4], blue: [-3.2e-4, 0, -6e-4] }],
  falloff: [{ focalLength: 12, terms: [-1.1, 0.56, -0.14], red: [-0.03, 0.01], blue: [0.025, -0.01] }]
});

export const LENSES = {
  zoom: {
    maker: 'Fenwright',
    name: 'Fenwright 16-35 mm f/4',
    profile: shipped('fenwright-16-35-f4'),
    aperture: 8,
    blur: { middle: 0.5, corners: 1.1 },
    glare: 0.007,
    writesData: true
  },
  wide: {
    maker: 'Fenwright',
    name: 'Fenwright 24 mm f/2.8',
    profile: shipped('fenwright-24-f2-8'),
    aperture: 8,
    blur: { middle: 0.4, corners: 0.8 },
    glare: 0.004,
    writesData: true
  },
  /** The zoom wide open: bright windows spill violet. */
  zoomOpen: {
    maker: 'Fenwright',
    name: 'Fenwright 16-35 mm f/4',
    profile: shipped('fenwright-16-35-f4'),
    aperture: 4,
    blur: { middle: 0.7, corners: 1.4 },
    glare: 0.012,
    spill: { red: 0.1, blue: 0.3, reach: 0.0016 },
    writesData: true
  },
  manual: {
    maker: 'Brindle Optical',
    name: 'Brindle Optical 12 mm f/5.6',
    profile: BRINDLE_12,
    aperture: 5.6,
    writesData: false
  },
  long: {
    maker: 'Fenwright',
    name: 'Fenwright 90 mm f/2.8',
    profile: shipped('fenwright-90-f2-8'),
    aperture: 8,
    writesData: true
  }
} satisfies Record<string, DemoLens>;
