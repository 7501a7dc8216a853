import { type LensProfile, completeProfile } from './profile.ts';

const FULL_FRAME = 21.6333;
const MOUNT = 'Fenwright F';

/** Brown's terms: even powers only. */
const brown = (k1: number, k2: number, k3: number): number[] => [0, k1, 0, k2, 0, k3];

/** Profiles that come with the app: those of the demo camera's lenses. */
export const shippedProfiles: readonly LensProfile[] = [
  {
    id: 'fenwright-16-35-f4',
    maker: 'Fenwright',
    lens: 'Fenwright 16-35 mm f/4',
    mounts: [MOUNT],
    sensorHalfDiagonal: FULL_FRAME,
    distortion: [
      { focalLength: 16, terms: brown(-0.098, 0.031, -0.006) },
      { focalLength: 20, terms: brown(-0.058, 0.016, -0.002) },
      { focalLength: 24, terms: brown(-0.021, 0.004, 0) },
      { focalLength: 35, terms: brown(0.018, -0.004, 0) }
    ],
    lateral: [
      { focalLength: 16, red: [1.6e-4, 0, 2.4e-4], blue: [-2.2e-4, 0, -3.1e-4] },
      { focalLength: 35, red: [-0.6e-4, 0, 1.2e-4], blue: [0.8e-4, 0, -1.5e-4] }
    ],
    falloff: [
      { focalLength: 16, terms: [-0.82, 0.36, -0.09] },
      { focalLength: 20, terms: [-0.68, 0.27, -0.06] },
      { focalLength: 24, terms: [-0.55, 0.2, -0.04] },
      { focalLength: 35, terms: [-0.42, 0.13, -0.02] }
    ],
    softness: [
      { focalLength: 16, aperture: 4, middle: 4.76, corners: 7.56 },
      { focalLength: 16, aperture: 8, middle: 3.87, corners: 6.39 }
    ]
  },
  {
    id: 'fenwright-24-f2-8',
    maker: 'Fenwright',
    lens: 'Fenwright 24 mm f/2.8',
    mounts: [MOUNT],
    sensorHalfDiagonal: FULL_FRAME,
    distortion: [{ focalLength: 24, terms: brown(-0.046, 0.009, 0.001) }],
    lateral: [{ focalLength: 24, red: [1e-4, 0, 1.1e-4], blue: [-1.4e-4, 0, -1.2e-4] }],
    falloff: [{ focalLength: 24, terms: [-0.6, 0.22, -0.05] }],
    softness: [{ focalLength: 24, middle: 3.39, corners: 5.18 }]
  },
  {
    id: 'fenwright-90-f2-8',
    maker: 'Fenwright',
    lens: 'Fenwright 90 mm f/2.8',
    mounts: [MOUNT],
    sensorHalfDiagonal: FULL_FRAME,
    distortion: [{ focalLength: 90, terms: brown(0.008, -0.001, 0) }],
    lateral: [{ focalLength: 90, red: [-5e-5], blue: [8e-5] }],
    falloff: [{ focalLength: 90, terms: [-0.3, 0.06, 0] }]
  }
].map((profile) => completeProfile(profile));
