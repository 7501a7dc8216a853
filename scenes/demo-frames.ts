/** The demo set: which frames there are, of which job, and how each was taken. */
import type { DngFacts } from './camera/dng.ts';
import type { CameraSetup } from './camera/capture.ts';
import { CAMERA, LENSES } from './camera/lenses.ts';
import { coopersRiseFront } from './buildings/coopers-rise-front.ts';
import { kitchen } from './buildings/kitchen.ts';
import { libraryExterior } from './buildings/library-exterior.ts';
import { readingRoom } from './buildings/reading-room.ts';
import { stairHall } from './buildings/stair-hall.ts';
import type { Scene } from './trace/scene.ts';

export interface DemoFrame {
  file: string;
  job: string;
  scene: () => Scene;
  /** Everything but the size, for a picture `long` pixels on its long edge. */
  setup: Omit<CameraSetup, 'size'>;
  exposureTime: [number, number];
  iso: number;
  taken: string;
  position?: DngFacts['position'];
}

export interface DemoJob {
  name: string;
  client: string;
  site: string;
}

export const DEMO_JOBS: DemoJob[] = [
  { name: 'Saltmarsh Library', client: 'Orla Venn Architects', site: 'Saltmarsh Quay, Ebbfleetham' },
  { name: "14 Cooper's Rise", client: 'Larch & Tolley Lettings', site: "14 Cooper's Rise, Ebbfleetham" }
];

export const DEMO_FRAMES: DemoFrame[] = [
  {
    file: 'SML_0101.dng',
    job: 'Saltmarsh Library',
    scene: libraryExterior,
    setup: {
      position: [-1.6, 1.62, -21],
      angles: { roll: -1.3, pitch: 9.5, yaw: -3 },
      lens: LENSES.wide,
      focalLength: 24,
      seed: 101,
      compensation: -0.5
    },
    exposureTime: [1, 250],
    iso: 100,
    taken: '2026:05:14 10:12:31',
    // A place in the open ocean: the library does not exist.
    position: { latitude: -41.5125, longitude: -112.25 }
  },
  {
    file: 'SML_0107.dng',
    job: 'Saltmarsh Library',
    scene: libraryExterior,
    setup: {
      position: [-20.5, 1.6, -11.8],
      angles: { roll: 0.9, pitch: 11.5, yaw: -42 },
      lens: LENSES.zoom,
      focalLength: 20,
      seed: 107,
      compensation: -0.5
    },
    exposureTime: [1, 250],
    iso: 100,
    taken: '2026:05:14 10:31:02'
  },
  {
    file: 'SML_0121.dng',
    job: 'Saltmarsh Library',
    scene: readingRoom,
    setup: {
      position: [1.15, 1.5, 0.35],
      angles: { roll: -0.8, pitch: 4.5, yaw: 7 },
      lens: LENSES.zoom,
      focalLength: 16,
      seed: 121,
      compensation: 0.9
    },
    exposureTime: [1, 8],
    iso: 200,
    taken: '2026:05:14 11:04:47'
  },
  {
    file: 'SML_0130.dng',
    job: 'Saltmarsh Library',
    scene: stairHall,
    setup: {
      position: [-1.05, 1.55, -2.5],
      angles: { roll: 1.1, pitch: 10, yaw: -5 },
      lens: LENSES.zoom,
      focalLength: 20,
      seed: 130,
      turns: 1,
      compensation: -0.55
    },
    exposureTime: [1, 6],
    iso: 200,
    taken: '2026:05:14 11:40:15'
  },
  {
    file: 'CPR_0003.dng',
    job: "14 Cooper's Rise",
    scene: coopersRiseFront,
    setup: {
      position: [1.6, 1.6, -14.5],
      angles: { roll: 1.6, pitch: 7, yaw: 2 },
      lens: LENSES.wide,
      focalLength: 24,
      seed: 203,
      compensation: -0.5
    },
    exposureTime: [1, 320],
    iso: 100,
    taken: '2026:06:02 15:20:09'
  },
  {
    file: 'CPR_0011.dng',
    job: "14 Cooper's Rise",
    scene: kitchen,
    setup: {
      position: [1.5, 1.42, -0.75],
      angles: { roll: -1.1, pitch: -6, yaw: 17 },
      lens: LENSES.zoom,
      focalLength: 17,
      seed: 211,
      compensation: 0.25
    },
    exposureTime: [1, 15],
    iso: 400,
    taken: '2026:06:02 15:48:50'
  }
];

/** A frame's camera at a size given by its long edge (3:2, turned when the camera was). */
export function setupAt(frame: DemoFrame, long: number): CameraSetup {
  const short = Math.round(long / 3) * 2;
  const turned = (frame.setup.turns ?? 0) % 2 === 1;
  return { ...frame.setup, size: turned ? { width: short, height: long } : { width: long, height: short } };
}

export function dngFacts(frame: DemoFrame): DngFacts {
  const { lens, focalLength } = frame.setup;
  return {
    ...CAMERA,
    ...(lens.writesData
      ? { lensMaker: lens.maker, lens: lens.name, focalLength, aperture: lens.aperture }
      : {}),
    exposureTime: frame.exposureTime,
    iso: frame.iso,
    taken: frame.taken,
    artist: 'Imre Calloway',
    copyright: '© 2026 Imre Calloway',
    position: frame.position
  };
}
