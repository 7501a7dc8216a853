import type { LensProfile } from './profile.ts';
import type { CameraWhite } from './camera-white.ts';
import type { Noise } from './noise.ts';
import type { Matrix3 } from '../math/matrix3.ts';
import type { FrameSize } from '../math/frame-geometry.ts';

/**
 * How a picture's linear values relate to light: a raw file's are the scene's; a finished picture's (JPEG, PNG, TIFF) are
 * already those of a display.
 */
export type Rendering = 'scene' | 'display';

/** What a file says of its frame. */
export interface FrameFacts {
  /** Short name of the file format, as shown to the user. */
  format: string;
  rendering: Rendering;
  size: FrameSize;
  make: string | null;
  model: string | null;
  lensMaker: string | null;
  lens: string | null;
  /** Millimetres. */
  focalLength: number | null;
  focalLength35: number | null;
  aperture: number | null;
  /** Metres from the camera to what it was focused on. */
  distance: number | null;
  /** Seconds. */
  exposureTime: number | null;
  iso: number | null;
  /** "YYYY:MM:DD hh:mm:ss", as the camera's clock said. */
  taken: string | null;
  artist: string | null;
  copyright: string | null;
  /** Millimetres. */
  sensorHalfDiagonal: number | null;
  /** The file's own (white-balanced) red, green and blue to linear Rec.2020; rows sum to 1. */
  toWorking: Matrix3;
  /** Finished pictures: their colours are those of the profile that they carry; frames that were added earlier were cut to sRGB. */
  ownColours?: boolean;
  /** How the sensor sees the white of lights, for a balance in kelvin; frames that were added earlier lack it. */
  white?: CameraWhite | null;
  /** The noise of its sensor values as measured; frames that were added earlier lack it. */
  noise?: Noise | null;
  /** Corrections that the file itself carries, as a profile. */
  corrections: LensProfile | null;
  /** Degrees. */
  position: { latitude: number; longitude: number } | null;
}
