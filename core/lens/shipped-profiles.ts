import type { LensProfile } from './profile.ts';

const FULL_FRAME = 21.6333;

/** Profiles that come with the app: those of the demo camera's lenses. */
export const shippedProfiles: readonly LensProfile[] = [
  {
    id: 'fenwright-16-35-f4',
    maker: 'Fenwright',
    lens: '16-35 mm f/4',
    sensorHalfDiagonal: FULL_FRAME,
    nodes: [
      { focalLength: 16, distortion: [-0.098, 0.031, -0.006], falloff: [-0.82, 0.36, -0.09] },
      { focalLength: 20, distortion: [-0.058, 0.016, -0.002], falloff: [-0.68, 0.27, -0.06] },
      { focalLength: 24, distortion: [-0.021, 0.004, 0], falloff: [-0.55, 0.2, -0.04] },
      { focalLength: 35, distortion: [0.018, -0.004, 0], falloff: [-0.42, 0.13, -0.02] }
    ]
  },
  {
    id: 'fenwright-24-f2-8',
    maker: 'Fenwright',
    lens: '24 mm f/2.8',
    sensorHalfDiagonal: FULL_FRAME,
    nodes: [{ focalLength: 24, distortion: [-0.046, 0.009, 0.001], falloff: [-0.6, 0.22, -0.05] }]
  },
  {
    id: 'fenwright-90-f2-8',
    maker: 'Fenwright',
    lens: '90 mm f/2.8',
    sensorHalfDiagonal: FULL_FRAME,
    nodes: [{ focalLength: 90, distortion: [0.008, -0.001, 0], falloff: [-0.3, 0.06, 0] }]
  }
];
