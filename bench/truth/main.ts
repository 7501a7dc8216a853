/** npm run bench:truth: how near to the truth measuring comes, on real photographs and on the demo camera's, as one page. */
import { existsSync } from 'node:fs';
import { type Point, halfDiagonal, sensorToField } from '../../core/math/frame-geometry.ts';
import { rotationFromAngles } from '../../core/math/rotation.ts';
import { type BoardView, calibrate } from '../../core/measure/chart/calibrate.ts';
import { measureChart } from '../../core/measure/chart/measure-chart.ts';
import type { GreyPlane } from '../../core/measure/edges/trace-polyline.ts';
import { distanceFrom, fitLine } from '../../core/optics/fit-line.ts';
import { type LensModel, NO_DISTORTION, lensModel, undistort } from '../../core/optics/lens-model.ts';
import { developBand } from '../../core/picture/raw/develop.ts';
import { allocatePlanes, givePlanesBack } from '../../core/picture/tile/planes.ts';
import { type CurveSolution, solveCurves } from '../../core/steps/lens/solve-curves.ts';
import { lookForLines } from '../../core/steps/lines/look-for-lines.ts';
import { setupLens } from '../../scenes/camera/capture.ts';
import { SENSOR_HALF_DIAGONAL } from '../../scenes/camera/lenses.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { edgesOf, realPhotograph } from '../../scenes/real-photograph.ts';
import { takeFrame } from '../../scenes/take-frame.ts';
import { decodeFile } from '../../server/decode/decode-file.ts';
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

/** How far the rows and columns of a board are from straight, in pixels: the worst seventh, which are no corners, left out. */
function unevenness(corners: BoardView, model: LensModel, unit: number): number {
  const off: number[] = [];
  for (const key of ['row', 'column'] as const) {
    const lines = new Map<number, Point[]>();
    for (const corner of corners)
      lines.set(corner[key], [...(lines.get(corner[key]) ?? []), undistort(corner.at, model)]);
    for (const points of lines.values()) {
      if (points.length < 5) continue;
      const line = fitLine(points);
      const far = points.map((point) => Math.abs(distanceFrom(line, point)) * unit).sort((a, b) => a - b);
      off.push(...far.slice(0, Math.ceil(far.length * 0.85)));
    }
  }
  return rms(off);
}

say('Boards held by hand before two cameras');
const uneven = { before: [] as number[], after: [] as number[] };
for (const camera of ['left', 'right']) {
  const views: BoardView[] = [];
  let unit = 1;
  for (const name of names(camera)) {
    const plane = await realPhotograph('boards', name);
    unit = halfDiagonal(plane);
    const planes = allocatePlanes(plane.width, plane.height);
    for (const colour of [planes.r, planes.g, planes.b]) colour.set(plane.data);
    const chart = measureChart(planes);
    givePlanesBack(planes);
    if (!chart) continue;
    views.push(chart.corners);
    const solved = straightenedBy(plane);
    uneven.before.push(unevenness(chart.corners, NO_DISTORTION, unit));
    uneven.after.push(
      unevenness(
        chart.corners,
        solved.ok ? lensModel({ ...solved, tangential: [0, 0] }) : NO_DISTORTION,
        unit
      )
    );
  }
  const found = calibrate(views, { pixel: 1 / unit });
  row(
    `chart, ${camera}`,
    found.ok ? `${(found.rms * unit).toFixed(3)} px RMS, ${views.length} views` : found.reason
  );
}
const worse = uneven.after.filter((value, i) => value > uneven.before[i] + 0.02).length;
row(
  'straightened by the edges of one board alone',
  `${mean(uneven.before).toFixed(3)} → ${mean(uneven.after).toFixed(3)} px, ${worse} of ${uneven.after.length} worse`
);

say('\nDemo frames, 1200 px');
interface Taken {
  plane: GreyPlane;
  model: LensModel;
  focal: number;
  down: readonly number[];
}
const taken: Taken[] = [];
for (const frame of DEMO_FRAMES) {
  // Charts, and the green with nothing plumb on it.
  if (/^BRN|SML_0102|CPR_0021/.test(frame.file)) continue;
  const decoded = await decodeFile(takeFrame(frame, 1200), frame.file);
  if (decoded.kind !== 'mosaic') throw new Error('The demo camera writes mosaics.');
  const { width, height } = decoded.facts.size;
  const planes = allocatePlanes(width, height);
  developBand(decoded.mosaic, planes, 0, height);
  const data = planes.g.map((value) => Math.min(1, value));
  givePlanesBack(planes);
  const { angles, focalLength } = frame.setup;
  const r = rotationFromAngles({ ...angles, yaw: 0 });
  const { model } = setupLens(setupAt(frame, 1200));
  taken.push({
    plane: { width, height, data },
    model,
    focal: focalLength / SENSOR_HALF_DIAGONAL,
    down: [r[3], r[4], r[5]]
  });
}

const DEGREES = 180 / Math.PI;
function verticals(name: string, change: (plane: GreyPlane, i: number) => GreyPlane, lensTold = true): void {
  let [within, far, alone, one, two] = [0, 0, 0, 0, 0];
  taken.forEach(({ plane, model, focal, down }, i) => {
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
    const r = rotationFromAngles(found.angles);
    const cosine = r[3] * down[0] + r[4] * down[1] + r[5] * down[2];
    const off = Math.acos(Math.min(1, cosine)) * DEGREES;
    const uncertainty = Math.hypot(found.rollError, found.pitchError);
    if (off < 1) within++;
    if (off > 1.5 && found.confidence === 'sure') far++;
    if (off < uncertainty) one++;
    if (off < 2 * uncertainty) two++;
  });
  const share = (count: number, of = taken.length): string => `${Math.round((100 * count) / of)} %`;
  const told = taken.length - alone;
  row(
    `verticals, ${name}`,
    `within 1°: ${share(within)}, sure and beyond 1.5°: ${far}, left alone: ${share(alone)}, within one error ${share(one, told)}, two ${share(two, told)}`
  );
}
verticals('as they are', (plane) => plane);
verticals('noisy', (plane, i) => noisy(plane, 0.08, i + 1));
verticals('enlarged twice', (plane) => enlarged(plane));
verticals('lens not told', (plane) => plane, false);
verticals('lens not told, ±3 % more bow', (plane, i) => bowed(plane, i % 2 ? 0.03 : -0.03), false);

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
