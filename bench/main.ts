/**
 * npm run bench: how fast each stage is on a 24 MP raw file, the whole export with its peak memory, and on the
 * bench the time from moving a control to the new picture. Figures of one run on one machine: compare runs made
 * side by side.
 */
import { ALL_TONE } from './all-tone.ts';
import { ALL_FINISH } from './all-finish.ts';
import { areasAtWork } from './areas-at-work.ts';
import { lightColour } from '../core/steps/colour/light-colour.ts';
import { giveLightBack, measureLight } from '../core/measure/light/measure-light.ts';
import { suggestTone } from '../core/steps/tone/suggest-tone.ts';
import { type Point, sensorToField } from '../core/math/frame-geometry.ts';
import { findSegments } from '../core/steps/lines/find-segments.ts';
import type { Mark } from '../core/steps/lines/mark.ts';
import { solveRotation } from '../core/steps/lines/solve-rotation.ts';
import { trueUpItself } from '../core/steps/lines/true-up-itself.ts';
import { measureReadings } from '../core/render/readings/measure.ts';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { takeUint16, takeUint8 } from '../core/picture/kernels/heap.ts';
import { halfDiagonal } from '../core/math/frame-geometry.ts';
import { shippedProfiles } from '../core/optics/shipped-profiles.ts';
import { buildMesh } from '../core/picture/geometry/build-mesh.ts';
import { NO_CHOICE, setupFrame } from '../core/steps/lens/frame-optics.ts';
import { halve, pyramid } from '../core/picture/tile/halve.ts';
import { cropView, limitedSize, planFrame } from '../core/render/plan.ts';
import { type PlacedPlanes, allocatePlanes, placeOn } from '../core/picture/tile/planes.ts';
import { resample } from '../core/picture/geometry/resample.ts';
import { developBand } from '../core/picture/raw/develop.ts';
import { type PartialRecipe, asShot, completeRecipe } from '../core/recipe/recipe.ts';
import { packRgb, packRgba8 } from '../core/picture/output/pack-pixels.ts';
import { type RenderInputs, renderInputs } from '../core/render/render-inputs.ts';
import { type TileCache, emptyCache, renderTile } from '../core/render/render-tile.ts';
import { writeDng } from '../scenes/camera/dng.ts';
import { DEMO_FRAMES, dngFacts } from '../scenes/demo-frames.ts';
import { takeFrame } from '../scenes/take-frame.ts';
import { decodeFile } from '../server/decode/decode-file.ts';
import { encoderOf } from '../server/render/encode.ts';
import { exportFrame, openFrame, renderPicture } from '../server/render/export-frame.ts';
import { createPool } from '../server/render/pool.ts';
import { readFile } from 'node:fs/promises';
import { ROOT } from '../server/paths.ts';
import { testMosaic } from './test-mosaic.ts';

const SIZE = { width: 6000, height: 4000 };
const MEGAPIXELS = (SIZE.width * SIZE.height) / 1e6;
/** The sheet of a 1280 x 800 window. */
const SHEET = { width: 1146, height: 546 };

const folder = join(tmpdir(), 'line-true-bench');
const file = join(folder, 'bench-24mp.dng');
const say = (text: string): void => void process.stdout.write(`${text}\n`);

if (!existsSync(file) || statSync(file).size < SIZE.width * SIZE.height * 2) {
  mkdirSync(folder, { recursive: true });
  say('Making a 24 MP raw file (once)…');
  const frame = DEMO_FRAMES[0];
  writeFileSync(file, writeDng(testMosaic(SIZE), dngFacts(frame)));
}

const seconds = (started: number): number => (performance.now() - started) / 1000;
function line(name: string, time: number, megapixels = MEGAPIXELS): void {
  say(
    `${name.padEnd(44)}${time.toFixed(2).padStart(7)} s ${(megapixels / time).toFixed(1).padStart(8)} MP/s`
  );
}

say('One thread, stage by stage, 24 MP');
let started = performance.now();
const decoded = await decodeFile(await readFile(file), 'bench-24mp.dng');
line('unpack', seconds(started));
if (decoded.kind !== 'mosaic') throw new Error('The bench file is not a Bayer one.');
const { mosaic, facts } = decoded;
const values = takeUint16(mosaic.data.length);
values.set(mosaic.data);
mosaic.data = values;
const planes = allocatePlanes(SIZE.width, SIZE.height);
started = performance.now();
for (let y = 0; y < SIZE.height; y += 256) developBand(mosaic, planes, y, Math.min(SIZE.height, y + 256));
line('demosaic, white balance, camera colours', seconds(started));

const recipe = completeRecipe({ lines: { roll: -1.3, pitch: 9.5 } });
const choice = { ...NO_CHOICE, auto: shippedProfiles.find(({ id }) => id === 'fenwright-24-f2-8')! };
const inputs = renderInputs(recipe, facts, choice);
const { optics, terms, plan } = inputs;
const output = plan.output;
const outputMegapixels = (output.width * output.height) / 1e6;
const view = cropView(plan.crop, output);
const source = { ...planes, originX: 0, originY: 0, scaleX: 1, scaleY: 1 };
const pixels = new Uint8Array(output.width * output.height * 3);
const BAND = 128;
/** Renders the picture as exports do, in bands, by the stages of some inputs; the tiles of the bands are kept. */
const caches: TileCache[] = [];
const forget = (): void => caches.splice(0).forEach(emptyCache);
function renderAll({ stages: wanted }: RenderInputs): number {
  started = performance.now();
  for (let from = 0, n = 0; from < output.height; from += BAND, n++) {
    const height = Math.min(BAND, output.height - from);
    const band = { ...view, top: view.top + from * view.pixel, height };
    const rows = pixels.subarray(from * output.width * 3, (from + height) * output.width * 3);
    renderTile(
      { source, stages: wanted, view: band },
      packRgb(rows, output.width),
      (caches[n] ??= new Map())
    );
  }
  return seconds(started);
}
const whole = renderAll(inputs);
// Once more from what is kept: all but the resampling.
const light = renderAll(inputs);
line('geometry, each colour by itself', whole - light, outputMegapixels);
forget();
const alikeInputs = renderInputs(completeRecipe({ ...recipe, lens: { lateral: 0 } }), facts, choice);
const geometry = renderAll(alikeInputs) - light;
line('geometry, all colours alike', geometry, outputMegapixels);
line('falloff, tone, output colours', light, outputMegapixels);
forget();
renderAll(inputs);
const fringed = renderInputs(completeRecipe({ ...recipe, lens: { fringeOne: 100 } }), facts, choice);
line('fringe removal, one colour (with geometry)', renderAll(fringed) - light, outputMegapixels);
forget();
started = performance.now();
const toJpeg = encoderOf(pixels, output, facts, { format: 'jpeg', ppi: 300, keepPosition: false });
const jpeg = await toJpeg(92);
line(`encode (JPEG, ${(jpeg.length / 1e6).toFixed(1)} MB)`, seconds(started), outputMegapixels);

say('\nOn the bench: from moving a control to the new picture, 1146 x 546 sheet, one thread');
const proxySize = limitedSize(SIZE, 2048);
const neutral = renderInputs(asShot(), facts, choice);
let proxySource: PlacedPlanes = source;
while (proxySource.width >= proxySize.width * 2) proxySource = halve(proxySource);
const proxyPlanes = allocatePlanes(proxySize.width, proxySize.height);
resample(proxySource, buildMesh(neutral.plan.projection, cropView(neutral.plan.crop, proxySize)), {
  ...proxyPlanes,
  valid: takeUint8(proxyPlanes.g.length)
});
const levels = pyramid(placeOn(proxyPlanes, SIZE));
const scale = Math.max(plan.crop.width / SHEET.width, plan.crop.height / SHEET.height);
const sheetView = {
  left: plan.crop.x - (scale * SHEET.width) / 2,
  top: plan.crop.y - (scale * SHEET.height) / 2,
  pixel: scale,
  ...SHEET
};
/** As in the preview worker: a twentieth of a screen pixel at rest, a quarter in motion. */
const sheetLimit = 0.05 * scale * halfDiagonal(SIZE);
const rgba = new Uint8ClampedArray(SHEET.width * SHEET.height * 4);
const median = (times: number[]): number => [...times].sort((a, b) => a - b)[times.length >> 1];
function moved(name: string, draft: boolean, recipeAt: (i: number) => PartialRecipe): void {
  const cache: TileCache = new Map();
  const times: number[] = [];
  for (let i = 0; i < 15; i++) {
    started = performance.now();
    const { stages: wanted } = renderInputs(completeRecipe(recipeAt(i)), facts, choice);
    const request = { source: levels[0], stages: wanted, view: sheetView, draft };
    renderTile(
      { ...request, meshError: draft ? sheetLimit * 5 : sheetLimit, label: 'proxy' },
      packRgba8(rgba, SHEET.width),
      cache
    );
    times.push(performance.now() - started);
  }
  say(`${name.padEnd(44)}${median(times).toFixed(0).padStart(5)} ms`);
}
const turned = (i: number): PartialRecipe => ({ lines: { roll: -1.3, pitch: 9 + i * 0.05 } });
moved('geometry-like control, in motion', true, turned);
moved('geometry-like control, at rest', false, turned);
moved('light-like control (falloff)', false, (i) => ({ ...recipe, lens: { falloff: i } }));

say('\nLines, one thread');
const scene = join(folder, 'library.dng');
if (!existsSync(scene)) {
  say('Taking a photograph of the size of a proxy (once)…');
  writeFileSync(scene, takeFrame(DEMO_FRAMES[0], 2048));
}
const photograph = await decodeFile(await readFile(scene), 'library.dng');
if (photograph.kind !== 'mosaic') throw new Error('The demo camera writes mosaics.');
const { size } = photograph.facts;
const lit = allocatePlanes(size.width, size.height);
developBand(photograph.mosaic, lit, 0, size.height);
const grey = { ...size, data: lit.g };
const library = setupFrame(photograph.facts, completeRecipe().lens, choice);
const { model: libraryLens } = planFrame(library.optics, completeRecipe(), library.terms).projection;
const onFrame = (place: Point): Point => sensorToField(place, size);
findSegments(grey, { model: libraryLens, toField: onFrame });
started = performance.now();
const segments = findSegments(grey, { model: libraryLens, toField: onFrame });
const found = trueUpItself(segments, { focal: library.optics.focal });
say(
  `${'finding lines on the proxy'.padEnd(44)}${(performance.now() - started).toFixed(0).padStart(5)} ms, ${segments.length} segments: ${found.ok ? found.said : found.reason}`
);
const many = Array.from({ length: 300 }, (_, i): Mark => {
  const x = -0.7 + (1.4 * i) / 300;
  return {
    id: String(i),
    kind: 'plumb',
    a: [x * 0.95, -0.3 + (i % 7) * 0.01],
    b: [x * 1.05, 0.3],
    found: true
  };
});
started = performance.now();
solveRotation(many, { focal: optics.focal, model: plan.projection.model });
say(`${'true up from 300 marks'.padEnd(44)}${(performance.now() - started).toFixed(0).padStart(5)} ms`);
started = performance.now();
const dragged = planFrame(optics, completeRecipe({ lines: { pitch: 9, marks: many } }), terms);
measureReadings(dragged, optics, { marks: many, curves: [], edges: null });
say(
  `${'plan and readings with 300 marks'.padEnd(44)}${(performance.now() - started).toFixed(0).padStart(5)} ms`
);

/** What native libraries take for the same file; null where they are not installed. */
function native(): { whole: number; remap: number } | null {
  const script = join(import.meta.dirname, 'native-chain.py');
  const ran = spawnSync('/usr/bin/python3', [script, file, join(folder, 'native.jpg')], { encoding: 'utf8' });
  return ran.status === 0 ? (JSON.parse(ran.stdout) as { whole: number; remap: number }) : null;
}

say('\nTone by itself, from a proxy');
started = performance.now();
const frameLight = measureLight(levels[0], facts.toWorking);
line('the broad light of a frame', seconds(started));
started = performance.now();
suggestTone(frameLight, completeRecipe({}).tone);
lightColour(frameLight);
line('tone and white balance suggested', seconds(started));
giveLightBack(frameLight);

say('\nThe whole export, all cores');
const pool = createPool();
let peak = 0;
const watch = setInterval(() => (peak = Math.max(peak, process.memoryUsage().rss)), 50);
const before = process.memoryUsage().rss;
const exportOnce = async (lateral: number, own: PartialRecipe = {}): Promise<void> => {
  const { path, name } = { path: file, name: 'bench-24mp.dng' };
  const encoding = { format: 'jpeg' as const, quality: 92, ppi: 300, keepPosition: false };
  const wanted = { ...recipe, lens: { ...recipe.lens, lateral }, ...own };
  await exportFrame(
    { path, name, recipe: wanted, choose: () => choice, encoding, depth: 8, longEdge: null },
    pool
  );
};
/** The same from the command line, its start and the reading of the file included. */
writeFileSync(join(folder, 'recipe.json'), JSON.stringify(recipe));
function fromCommandLine(): void {
  const args = ['render', file, '--recipe', join(folder, 'recipe.json'), '--out', join(folder, 'cli.jpg')];
  const { status, stderr } = spawnSync(join(ROOT, 'bin/line-true'), args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
}
// Side by side, several times each: the machine's mood must not decide.
const times = {
  alike: [] as number[],
  each: [] as number[],
  toned: [] as number[],
  areas: [] as number[],
  finished: [] as number[],
  command: [] as number[]
};
const natives: { whole: number; remap: number }[] = [];
for (let i = 0; i < 3; i++) {
  started = performance.now();
  await exportOnce(0);
  times.alike.push(seconds(started));
  started = performance.now();
  await exportOnce(100);
  times.each.push(seconds(started));
  started = performance.now();
  await exportOnce(100, ALL_TONE);
  times.toned.push(seconds(started));
  started = performance.now();
  await exportOnce(100, { areas: completeRecipe({ areas: areasAtWork(20) }).areas });
  times.areas.push(seconds(started));
  started = performance.now();
  await exportOnce(100, { finish: completeRecipe({ finish: ALL_FINISH }).finish });
  times.finished.push(seconds(started));
  started = performance.now();
  fromCommandLine();
  times.command.push(seconds(started));
  const ran = native();
  if (ran) natives.push(ran);
}
/** Two pictures of one opened frame: what the second takes of the first, with its unpacking. */
started = performance.now();
const opened = await openFrame({ path: file, name: 'bench-24mp.dng', recipe, choose: () => choice }, pool);
const pictureOf = (longEdge: number | null): Promise<unknown> =>
  renderPicture(
    opened,
    {
      encoding: { format: 'jpeg', quality: 92, ppi: 300, keepPosition: false },
      depth: 8,
      sizeFor: (full) => limitedSize(full, longEdge)
    },
    pool
  );
await pictureOf(null);
const firstPicture = seconds(started);
started = performance.now();
await pictureOf(2048);
say(
  `${'a second picture, 2048 px, of the first'.padEnd(44)}${(seconds(started) / firstPicture).toFixed(2).padStart(7)} x (wanted 0.3)`
);
await opened.close();
const [alike, each, command] = [times.alike, times.each, times.command].map((all) => Math.min(...all));
line('raw file to JPEG with report', alike);
line('the same with lateral colour', each);
line('raw file to JPEG, command line', command);
if (natives.length > 0) {
  const [whole, remap] = [natives.map((ran) => ran.whole), natives.map((ran) => ran.remap)].map((all) =>
    Math.min(...all)
  );
  line('native libraries, whole chain', whole);
  say(
    `${'the command line against it'.padEnd(44)}${(command / whole).toFixed(2).padStart(7)} x (wanted 0.5)`
  );
  say(
    `${'geometry, colours alike, against a float remap'.padEnd(44)}${(geometry / remap).toFixed(2).padStart(7)} x (wanted 1.5)`
  );
}
say(
  `${'all of tone and colour, against none'.padEnd(44)}${(Math.min(...times.toned) / each).toFixed(2).padStart(7)} x (wanted 1.25)`
);
say(
  `${'twenty areas, what they add'.padEnd(44)}${(Math.min(...times.areas) / each - 1).toFixed(2).padStart(7)} x (wanted 0.6)`
);
say(
  `${'all of Finish, against none'.padEnd(44)}${(Math.min(...times.finished) / each).toFixed(2).padStart(7)} x (wanted 2)`
);
say(`${'cost of lateral colour'.padEnd(44)}${(each / alike).toFixed(2).padStart(7)} x`);
clearInterval(watch);
say(
  `${'memory above what the stages left behind'.padEnd(44)}${((peak - before) / 1e9).toFixed(2).padStart(7)} GB`
);
await pool.destroy();
