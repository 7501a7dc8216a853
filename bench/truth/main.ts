/** npm run bench:truth: how near to the truth measuring comes, on real photographs and on the demo camera's, as one page. */
import { existsSync } from 'node:fs';
import { type Point, halfDiagonal, sensorToField } from '../../core/math/frame-geometry.ts';
import { apply, transpose } from '../../core/math/matrix3.ts';
import { type Angles, rotationFromAngles } from '../../core/math/rotation.ts';
import { type BoardView, calibrate } from '../../core/measure/chart/calibrate.ts';
import { measureChart } from '../../core/measure/chart/measure-chart.ts';
import type { GreyPlane } from '../../core/measure/edges/trace-polyline.ts';
import { type LensModel, NO_DISTORTION, lensModel, undistort } from '../../core/optics/lens-model.ts';
import { allocatePlanes, givePlanesBack } from '../../core/picture/tile/planes.ts';
import { type CurveSolution, solveCurves } from '../../core/steps/lens/solve-curves.ts';
import { type FrameCurves, solveLensOfFrames } from '../../core/steps/lens/solve-lens-frames.ts';
import { lookForLines } from '../../core/steps/lines/look-for-lines.ts';
import { setupLens } from '../../scenes/camera/capture.ts';
import { type DemoFrame, DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { harderFrames } from '../../scenes/harder-frames.ts';
import { edgesOf, realPhotograph } from '../../scenes/real-photograph.ts';
import { unevenness } from '../../scenes/board-straightness.ts';
import { seededRandom } from '../../core/math/random.ts';
import { turned } from '../../scenes/turned-photograph.ts';
import { clippedGreen, developedFrame } from '../../server/tests/developed-frame.ts';
import { bowed, enlarged, noisy } from './laid-errors.ts';

const say = (text: string): void => void process.stdout.write(`${text}\n`);
const row = (name: string, figures: string): void => say(`${name.padEnd(58)}${figures}`);
const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;
const rms = (values: readonly number[]): number => Math.sqrt(mean(values.map((value) => value * value)));

const BOARDS = '/usr/share/doc/opencv-doc/examples/data';
const names = (camera: string): string[] =>
  Array.from({ length: 14 }, (_, i) => `${camera}${String(i + 1).padStart(2, '0')}.jpg`).filter((name) =>
    existsSync(`${BOARDS}/${name}`)
  );

const straightenedBy = (plane: GreyPlane): CurveSolution =>
  solveCurves(edgesOf(plane), { robust: true, noise: 0.25 / halfDiagonal(plane) });

/** RMS distance of a board's corners from straight, in pixels; what lies beyond four times the median is no corner. */
function unevennessOf(off: readonly number[], unit: number): number {
  const sorted = [...off].sort((p, q) => p - q);
  return rms(sorted.filter((value) => value <= 4 * sorted[sorted.length >> 1])) * unit;
}

say('Boards held by hand before two cameras');
const uneven = { before: [] as number[], after: [] as number[] };
for (const camera of ['left', 'right']) {
  const views: BoardView[] = [];
  const frames: FrameCurves[] = [];
  let unit = 1;
  for (const name of names(camera)) {
    const plane = await realPhotograph('boards', name);
    unit = halfDiagonal(plane);
    const planes = allocatePlanes(plane.width, plane.height);
    for (const colour of [planes.r, planes.g, planes.b]) colour.set(plane.data);
    const chart = measureChart(planes);
    givePlanesBack(planes);
    frames.push({ id: name, curves: edgesOf(plane) });
    if (!chart) continue;
    views.push(chart.corners);
    const solved = straightenedBy(plane);
    const by = solved.ok ? lensModel({ ...solved, tangential: [0, 0] }) : NO_DISTORTION;
    uneven.before.push(unevennessOf(unevenness(chart.corners, NO_DISTORTION), unit));
    uneven.after.push(unevennessOf(unevenness(chart.corners, by), unit));
  }
  const heldOut = views.map((view, i) => {
    const found = calibrate(
      views.filter((_, other) => other !== i),
      { pixel: 1 / unit }
    );
    return found.ok ? unevenness(view, lensModel({ terms: found.terms, centre: found.centre })) : [];
  });
  const found = calibrate(views, { pixel: 1 / unit });
  row(
    `chart, ${camera}: each board by the lens of the others`,
    found.ok
      ? `straight within ${unevennessOf(heldOut.flat(), unit).toFixed(3)} px RMS; corners fit within ${(found.rms * unit).toFixed(3)} px, ${views.length} views`
      : found.reason
  );
  const began = performance.now();
  const together = solveLensOfFrames(frames, { noise: 0.25 / unit });
  const seconds = ((performance.now() - began) / 1000).toFixed(1);
  const over = (lens: LensModel): string =>
    mean(views.map((view) => unevennessOf(unevenness(view, lens), unit))).toFixed(3);
  row(
    `the edges of all boards together, ${camera}`,
    together.ok
      ? `${over(NO_DISTORTION)} → ${over(lensModel({ ...together, tangential: [0, 0] }))} px in ${seconds} s`
      : together.reason
  );
}
const worse = uneven.after.filter((value, i) => value > uneven.before[i] + 0.02).length;
row(
  'straightened by the edges of one board alone',
  `${mean(uneven.before).toFixed(3)} → ${mean(uneven.after).toFixed(3)} px, ${worse} of ${uneven.after.length} worse`
);

interface Taken {
  plane: GreyPlane;
  model: LensModel;
  focal: number;
  angles: Angles;
}
async function take(frames: readonly DemoFrame[]): Promise<Taken[]> {
  const taken: Taken[] = [];
  for (const { setup, ...frame } of frames) {
    // As the camera was held, not as it was stored.
    const upright = { ...frame, setup: { ...setup, turns: 0 as const } };
    const planes = await developedFrame(upright, 1200);
    const plane = clippedGreen(planes);
    givePlanesBack(planes);
    const { angles } = setup;
    const { model, focal } = setupLens(setupAt(upright, 1200));
    taken.push({ plane, model, focal, angles });
  }
  return taken;
}

function verticals(
  taken: readonly Taken[],
  name: string,
  change: (plane: GreyPlane, i: number) => GreyPlane,
  lensTold = true
): void {
  let [within, far, alone, one, two] = [0, 0, 0, 0, 0];
  taken.forEach(({ plane, model, focal, angles }, i) => {
    const seen = change(plane, i);
    const found = lookForLines(seen, {
      model: lensTold ? model : NO_DISTORTION,
      toField: (place) => sensorToField(place, seen),
      focal,
      focalKnown: true
    });
    if (!found.ok) {
      alone++;
      return;
    }
    const [roll, pitch] = [found.angles.roll - angles.roll, found.angles.pitch - angles.pitch];
    const off = Math.hypot(roll, pitch);
    if (off < 1) within++;
    if (off > 1.5 && found.confidence === 'sure') far++;
    for (const [error, stated] of [
      [roll, found.rollError],
      [pitch, found.pitchError]
    ]) {
      if (Math.abs(error) < stated) one++;
      if (Math.abs(error) < 2 * stated) two++;
    }
  });
  const share = (count: number, of = taken.length): string => `${Math.round((100 * count) / of)} %`;
  const told = taken.length - alone;
  row(
    `verticals, ${name}`,
    `within 1°: ${share(within)}, sure and beyond 1.5°: ${far}, left alone: ${share(alone)}, within one error ${share(one, 2 * told)}, two ${share(two, 2 * told)}`
  );
}
/** How far from the truth the bow of the lens and ±2 % more are by a frame's own edges, at 0.95 of the corner's radius. */
function bows(taken: readonly Taken[]): void {
  const bowOf = (straight: (place: Point) => Point): number => {
    const at = (radius: number): number =>
      mean(
        [-0.8, 0.8].flatMap((x) =>
          [-0.6, 0.6].map((y) => Math.hypot(...straight([radius * x, radius * y])) / radius)
        )
      );
    return at(0.95) / at(0.3) - 1;
  };
  let [told, near, worse] = [0, 0, 0];
  for (const { plane, model } of taken)
    for (const laid of [-0.02, 0.02]) {
      const solved = straightenedBy(bowed(plane, laid));
      const truth = bowOf((place) => undistort(undistort(place, lensModel({ terms: [0, laid] })), model));
      if (!solved.ok) continue;
      told++;
      const own = lensModel({ ...solved, tangential: [0, 0] });
      const off = Math.abs(bowOf((place) => undistort(place, own)) - truth);
      if (off < 0.004) near++;
      if (off > Math.abs(truth) + 0.0005) worse++;
    }
  row(
    'bow of the lens with ±2 % laid on, by one frame alone',
    `told: ${told} of ${2 * taken.length}, of these within 0.4 %: ${near}, worse than before: ${worse}`
  );
}
const DEMO = DEMO_FRAMES.filter(({ file }) => !/^BRN|SML_0102|CPR_0021/.test(file));
for (const [name, frames] of [
  ['Demo frames, 1200 px', DEMO],
  ['A quay: leaning walls, railings, people, vans, a tower aside, 1200 px', harderFrames(24)]
] as const) {
  say(`\n${name}`);
  const taken = await take(frames);
  verticals(taken, 'as they are', (plane) => plane);
  verticals(taken, 'noisy', (plane, i) => noisy(plane, 0.08, i + 1));
  verticals(taken, 'enlarged twice', (plane) => enlarged(plane));
  verticals(taken, 'lens not told', (plane) => plane, false);
  verticals(taken, 'lens not told, ±3 % more bow', (plane, i) => bowed(plane, i % 2 ? 0.03 : -0.03), false);
  bows(taken);
}

say('\nKnown turns of photographs (roll ±3, pitch ±10°): where plumb lies in the picture as it was');
for (const [from, name, focal, longest] of [
  ['pictures', 'china.jpg', 1.6, 640],
  ['backgrounds', 'Wine_by_Jakkub_Mede.jpg', 1.3, 2048]
] as const) {
  const plane = await realPhotograph(from, name, longest);
  const random = seededRandom(8);
  const between = (low: number, high: number): number => low + (high - low) * random();
  const downs: number[][] = [];
  const sure: number[] = [];
  let alone = 0;
  for (let i = 0; i < 24; i++) {
    const angles = { roll: between(-3, 3), pitch: between(-10, 10), yaw: between(-4, 4) };
    const view = turned(plane, angles, focal);
    if (!view) continue;
    const found = lookForLines(view.plane, {
      model: NO_DISTORTION,
      toField: (place) => sensorToField(place, view.plane),
      focal: view.focal,
      focalKnown: true
    });
    if (!found.ok) {
      alone++;
      continue;
    }
    if (found.confidence === 'sure') sure.push(downs.length);
    const r = rotationFromAngles(found.angles);
    downs.push(apply(transpose(rotationFromAngles(angles)), [r[3], r[4], r[5]]));
  }
  const degrees = (angle: number): number => (angle * 180) / Math.PI;
  const medianOf = (values: readonly number[]): number =>
    [...values].sort((p, q) => p - q)[values.length >> 1];
  const rolls = downs.map(([x, y]) => degrees(Math.atan2(x, y)));
  const pitches = downs.map(([, , z]) => degrees(Math.asin(z)));
  const [roll, pitch] = [medianOf(rolls), medianOf(pitches)];
  const off = rolls.map((value, i) => Math.hypot(value - roll, pitches[i] - pitch));
  const near = (limit: number): string => `${off.filter((value) => value < limit).length} within ${limit}°`;
  row(
    name,
    `of ${downs.length} told: ${near(0.3)}, ${near(1)}, ${near(2)} of their middle; sure and beyond 1.5°: ${sure.filter((i) => off[i] > 1.5).length}; left alone: ${alone}`
  );
}

say('\nPhotographs without buildings');
const OTHERS = [
  ['pictures', 'flower.jpg'],
  ['boards', 'fruits.jpg'],
  ['boards', 'baboon.jpg'],
  ['backgrounds', 'seeding_by_Clements_Engelhardt.jpg'],
  ['backgrounds', 'greentock_by_Peter_Nerlich.jpg'],
  ['backgrounds', 'life_by_Aitzol_Berasategi.jpg'],
  ['backgrounds', 'Bridge_by_Sander_Klootwijk.jpg']
] as const;
for (const [from, name] of OTHERS) {
  const plane = await realPhotograph(from, name);
  const found = lookForLines(plane, {
    model: NO_DISTORTION,
    toField: (place) => sensorToField(place, plane),
    focal: 1.3,
    focalKnown: false
  });
  const solved = straightenedBy(plane);
  const bow = solved.ok ? solved.terms.reduce((sum, term) => sum + term, 0) : 0;
  row(
    name,
    `verticals ${found.ok ? `roll ${found.angles.roll.toFixed(1)}, pitch ${found.angles.pitch.toFixed(1)}` : 'left alone'}; bow ${solved.ok ? `${(100 * bow).toFixed(1)} %` : 'none'}`
  );
}
