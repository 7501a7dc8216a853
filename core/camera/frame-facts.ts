import type { Rendering } from '../colour/display-table.ts';
import type { FrameSize } from './frame-geometry.ts';

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
  /** Seconds. */
  exposureTime: number | null;
  iso: number | null;
  /** "YYYY:MM:DD hh:mm:ss", as the camera's clock said. */
  taken: string | null;
  artist: string | null;
  copyright: string | null;
  /** Millimetres. */
  sensorHalfDiagonal: number | null;
  /** Degrees. */
  position: { latitude: number; longitude: number } | null;
}
