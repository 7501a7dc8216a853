/** The demo set: which frames there are, of which job, and how each was taken. */
import type { DngFacts } from './camera/dng.ts';
import type { CameraSetup } from './camera/capture.ts';
import { CAMERA, LENSES } from './camera/lenses.ts';
import { coopersRiseFront } from './buildings/coopers-rise-front.ts';
import { kitchen } from './buildings/kitchen.ts';
import { libraryExterior } from './buildings/library-exterior.ts';
import { DUSK, OVERCAST } from './buildings/parts.ts';
import { readingRoom } from './buildings/reading-room.ts';
import { roofTerrace } from './buildings/roof-terrace.ts';
import { sittingRoom } from './buildings/sitting-room.ts';
import { stairHall } from './buildings/stair-hall.ts';
import { villageGreen } from './buildings/village-green.ts';
import { chartWall, flatScreen } from './buildings/charts.ts';
import type { Scene, Vector } from './trace/scene.ts';

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
  /** Size against the set's other frames (default 1). */
  scale?: number;
}

export interface DemoJob {
  name: string;
  client: string;
  site: string;
}

export const DEMO_JOBS: DemoJob[] = [
  { name: 'Saltmarsh Library', client: 'Orla Venn Architects', site: 'Saltmarsh Quay, Ebbfleetham' },
  { name: "14 Cooper's Rise", client: 'Larch & Tolley Lettings', site: "14 Cooper's Rise, Ebbfleetham" },
  { name: 'Brindle 12 mm on the chart', client: 'Imre Calloway', site: 'Calloway’s yard, Ebbfleetham' }
];

const overcastLibrary = (): Scene => libraryExterior(OVERCAST);
const coopersRiseBinDay = (): Scene => coopersRiseFront(undefined, 0, true);
const coopersRiseDusk = (): Scene => coopersRiseFront(DUSK, 0.55);

const chart = (number: number, position: Vector, pitch: number, yaw: number, roll = 0): DemoFrame => ({
  file: `BRN_000${number}.dng`,
  job: 'Brindle 12 mm on the chart',
  scene: chartWall,
  scale: 0.7,
  setup: {
    position,
    angles: { roll, pitch, yaw },
    lens: LENSES.manual,
    focalLength: 12,
    seed: 300 + number,
    compensation: -0.3
  },
  exposureTime: [1, 60],
  iso: 100,
  taken: `2026:04:11 09:0${number}:20`
});

/** The lens on the chessboard from six sides, and on an evenly lit screen. */
const CHARTS: DemoFrame[] = [
  chart(1, [0, 0, -0.5], 0, 0),
  chart(2, [-0.32, 0.02, -0.52], 1, 17, 2),
  chart(3, [0.32, -0.02, -0.52], -1, -17, -3),
  chart(4, [0, 0.26, -0.5], -15, 2),
  chart(5, [0, -0.26, -0.5], 15, -3, 2),
  chart(6, [-0.26, 0.2, -0.55], -9, 12, 5),
  {
    ...chart(7, [0, 0, 0], 0, 0),
    file: 'BRN_0007_flat.dng',
    scene: flatScreen,
    setup: {
      position: [0, 0, 0],
      angles: { roll: 0, pitch: 0, yaw: 0 },
      lens: LENSES.manual,
      focalLength: 12,
      seed: 307,
      compensation: -1
    }
  }
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
    // The same view with more light, for the shadows.
    file: 'SML_0102.dng',
    job: 'Saltmarsh Library',
    scene: libraryExterior,
    setup: {
      position: [-1.6, 1.62, -21],
      angles: { roll: -1.3, pitch: 9.5, yaw: -3 },
      lens: LENSES.wide,
      focalLength: 24,
      seed: 102,
      compensation: 0.5
    },
    exposureTime: [1, 125],
    iso: 100,
    taken: '2026:05:14 10:12:32'
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
    file: 'SML_0109.dng',
    job: 'Saltmarsh Library',
    scene: libraryExterior,
    setup: {
      position: [-1.2, 1.62, -10.2],
      angles: { roll: 0.5, pitch: 0.6, yaw: 0 },
      lens: LENSES.zoom,
      focalLength: 16,
      seed: 109,
      compensation: -0.5
    },
    exposureTime: [1, 250],
    iso: 100,
    taken: '2026:05:14 10:36:40'
  },
  {
    // The same front on a dull day: flat, and a little blue.
    file: 'SML_0112.dng',
    job: 'Saltmarsh Library',
    scene: overcastLibrary,
    setup: {
      position: [7.2, 1.62, -17.5],
      angles: { roll: 0.7, pitch: 10.5, yaw: 19 },
      lens: LENSES.wide,
      focalLength: 24,
      seed: 112,
      compensation: -1.1
    },
    exposureTime: [1, 80],
    iso: 100,
    taken: '2026:05:13 09:40:18'
  },
  {
    file: 'SML_0116.dng',
    job: 'Saltmarsh Library',
    scene: roofTerrace,
    setup: {
      position: [0.2, 1.62, -2.2],
      angles: { roll: -0.9, pitch: -4.5, yaw: 3 },
      lens: LENSES.wide,
      focalLength: 24,
      seed: 116,
      compensation: -0.7
    },
    exposureTime: [1, 320],
    iso: 100,
    taken: '2026:05:14 10:52:11'
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
    file: 'SML_0124.dng',
    job: 'Saltmarsh Library',
    scene: readingRoom,
    setup: {
      position: [1.9, 1.45, 1.4],
      angles: { roll: 0.4, pitch: 3, yaw: 34 },
      lens: LENSES.zoomOpen,
      focalLength: 24,
      seed: 124,
      compensation: 1
    },
    exposureTime: [1, 30],
    iso: 200,
    taken: '2026:05:14 11:12:05'
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
    // Taken on the wrong day: a bin before the house, and a cable across the sky.
    file: 'CPR_0005.dng',
    job: "14 Cooper's Rise",
    scene: coopersRiseBinDay,
    setup: {
      position: [-1.2, 1.6, -13.6],
      angles: { roll: -0.8, pitch: 8.5, yaw: -2 },
      lens: LENSES.wide,
      focalLength: 24,
      seed: 205,
      compensation: -0.4
    },
    exposureTime: [1, 320],
    iso: 100,
    taken: '2026:06:02 15:24:51'
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
  },
  {
    file: 'CPR_0014.dng',
    job: "14 Cooper's Rise",
    scene: kitchen,
    setup: {
      position: [1.25, 1.4, 0.15],
      angles: { roll: 0.6, pitch: -3, yaw: 12 },
      lens: LENSES.manual,
      focalLength: 12,
      seed: 214,
      compensation: 0.75
    },
    exposureTime: [1, 15],
    iso: 400,
    taken: '2026:06:02 15:57:33'
  },
  {
    file: 'CPR_0018.dng',
    job: "14 Cooper's Rise",
    scene: sittingRoom,
    setup: {
      position: [-0.9, 1.4, -0.9],
      angles: { roll: 0.8, pitch: -4, yaw: 9 },
      lens: LENSES.zoom,
      focalLength: 20,
      seed: 218,
      compensation: 2.3
    },
    exposureTime: [1, 20],
    iso: 400,
    taken: '2026:06:02 16:31:05'
  },
  {
    file: 'CPR_0021.dng',
    job: "14 Cooper's Rise",
    scene: villageGreen,
    setup: {
      position: [0, 1.6, -14],
      angles: { roll: 2.2, pitch: 4, yaw: 0 },
      lens: LENSES.wide,
      focalLength: 24,
      seed: 221,
      compensation: -0.3
    },
    exposureTime: [1, 320],
    iso: 100,
    taken: '2026:06:02 16:10:27'
  },
  {
    file: 'CPR_0027.dng',
    job: "14 Cooper's Rise",
    scene: coopersRiseDusk,
    setup: {
      position: [-1.4, 1.6, -13.8],
      angles: { roll: -1.2, pitch: 8, yaw: -4 },
      lens: LENSES.wide,
      focalLength: 24,
      seed: 227,
      compensation: -0.2
    },
    exposureTime: [1, 4],
    iso: 400,
    taken: '2026:06:02 21:36:44'
  },
  ...CHARTS
];

/** A frame's camera at a size given by its long edge (3:2, turned when the camera was). */
export function setupAt(frame: DemoFrame, whole: number): CameraSetup {
  const long = Math.round((whole * (frame.scale ?? 1)) / 6) * 6;
  const short = (long / 3) * 2;
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

/** The demo jobs with the files of their frames, in order. */
export const demoJobs = (): (DemoJob & { files: string[] })[] =>
  DEMO_JOBS.map((job) => ({
    ...job,
    files: DEMO_FRAMES.filter((frame) => frame.job === job.name).map((frame) => frame.file)
  }));
