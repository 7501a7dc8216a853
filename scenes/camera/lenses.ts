/** The demo camera and its lenses: true figures, which the shipped profiles state as well. */
import type { LensProfile } from '../../core/lens/profile.ts';
import { shippedProfiles } from '../../core/lens/shipped-profiles.ts';

export const SENSOR_HALF_DIAGONAL = Math.hypot(36, 24) / 2;
export const CAMERA = { make: 'Fenwright', model: 'F2' };

export interface DemoLens {
  maker: string;
  name: string;
  profile: LensProfile;
  /** Size of the red and blue pictures against the green one, less 1. */
  lateral: { red: number; blue: number };
  aperture: number;
  /** False for a manual lens that writes nothing into the file. */
  writesData: boolean;
}

function shipped(id: string): LensProfile {
  const profile = shippedProfiles.find((p) => p.id === id);
  if (!profile) throw new Error(`No shipped profile is called ${id}.`);
  return profile;
}

export const LENSES = {
  zoom: {
    maker: 'Fenwright',
    name: 'Fenwright 16-35 mm f/4',
    profile: shipped('fenwright-16-35-f4'),
    lateral: { red: 1.6e-4, blue: -2.2e-4 },
    aperture: 8,
    writesData: true
  },
  wide: {
    maker: 'Fenwright',
    name: 'Fenwright 24 mm f/2.8',
    profile: shipped('fenwright-24-f2-8'),
    lateral: { red: 1e-4, blue: -1.4e-4 },
    aperture: 8,
    writesData: true
  },
  long: {
    maker: 'Fenwright',
    name: 'Fenwright 90 mm f/2.8',
    profile: shipped('fenwright-90-f2-8'),
    lateral: { red: -5e-5, blue: 8e-5 },
    aperture: 8,
    writesData: true
  }
} satisfies Record<string, DemoLens>;
