/**
 * Renders what the bench shows, with the same code that makes exports. One of the workers opens frames, fetches pixels, makes
 * what stages read and answers questions; all draw tiles, from memory that they share. Where pages may share none, there is one
 * worker. Memory is given back when the page says that nothing reads it any more.
 */
import type { View } from '$core/picture/tile/mesh.ts';
import type { Rectangle } from '$core/steps/crop/rectangle.ts';
import { bakeLook } from '$core/render/bake-look.ts';
import { addressOf, giveBack, takeUint32, takeUint8 } from '$core/picture/kernels/heap.ts';
import { KernelsUnavailable, kernels, useMemory } from '$core/picture/kernels/kernels.ts';
import type { FrameLight } from '$core/measure/light/frame-light.ts';
import { lightResource } from '$core/measure/light/light-resource.ts';
import { pyramid } from '$core/picture/tile/halve.ts';
import { type PlacedPlanes, givePlanesBack, placeOn, takePlanes } from '$core/picture/tile/planes.ts';
import { type Resources, keyOf, resourceFor } from '$core/picture/tile/resource.ts';
import { type SensorRectangle, onSensor } from '$core/picture/tile/sensor-rectangle.ts';
import { STORED_16, fillPlanes } from '$core/picture/tile/stored-planes.ts';
import { packRgba8 } from '$core/picture/output/pack-pixels.ts';
import { type TileCache, emptyCache, renderTile } from '$core/render/render-tile.ts';
import { resourceOf } from '$core/render/resources.ts';
import { coveredStops } from '$core/steps/areas/covered-stops.ts';
import { maskResource } from '$core/steps/areas/mask-resource.ts';
import { type SourceInputs, changedPart, rectanglesFor } from '$core/render/source-planes.ts';
import type { StageInputs } from '$core/render/stages.ts';
import { columnsWithin } from './columns-within.ts';
import { answerAbout } from './answers.ts';
import { COUNTS } from './histogram.ts';
import type {
  Answers,
  OpenFrame,
  ResourceKey,
  SourceName,
  TileTask,
  WorkerAnswer,
  WorkerTask
} from './messages.ts';
import { proxyAhead, proxyBytes } from './proxies.ts';
import { type TileStore, assemble, fetchTiles, hasTiles } from './tiles.ts';

let frame: OpenFrame | null = null;
/** The proxy of the open frame and its halves. */
let levels: PlacedPlanes[] = [];
/** How often this worker went on to a frame: its pictures are told from others by that. */
let frames = 0;
let store: TileStore | null = null;
let shared = false;
/** What this worker took memory for, by opening; and openings that were left before they were done. */
const own = new Map<number, PlacedPlanes[]>();
const left = new Set<number>();
/** Full-size pixels by number, and those of them that this worker took memory for. */
const full = new Map<number, PlacedPlanes>();
const ownFull = new Set<number>();
/** Resources by their keys, and those that this worker made. */
const values = new Map<string, unknown>();
const made = new Set<string>();
/** What the drawings are made by that tiles are drawn of. */
const drawings = new Map<number, { stages: StageInputs; resources: Resources }>();
/** Tiles as they were before their pixel stages. */
const caches = new Map<number, TileCache>();

const say = (message: WorkerAnswer, transfer: Transferable[] = []): void =>
  postMessage(message, { transfer });

function emptyCaches(): void {
  for (const cache of caches.values()) emptyCache(cache);
  caches.clear();
}

/** Seconds after a frame was opened from which on its full-size pixels are made ahead. */
const AHEAD = 1;

async function open(opening: number, opened: OpenFrame): Promise<void> {
  const started = performance.now();
  const { frameId, proxy, size } = opened;
  const bytes = await proxyBytes(frameId);
  if (!bytes) {
    const message = 'The picture could not be fetched: Line True does not answer.';
    say({ kind: 'failed', opening, message, again: true });
    return;
  }
  // Left while it was fetched.
  if (left.delete(opening)) return;
  emptyCaches();
  const planes = takePlanes(proxy.width, proxy.height);
  own.set(opening, [planes as PlacedPlanes]);
  fillPlanes(new Uint16Array(bytes), proxy.width, planes, STORED_16);
  levels = pyramid(placeOn(planes, size));
  own.set(opening, levels);
  frame = opened;
  frames++;
  store = { frameId, size, tiles: new Map() };
  const milliseconds = performance.now() - started;
  say({ kind: 'opened', opening, levels: shared ? levels : [], milliseconds });
  const mine = store;
  setTimeout(() => {
    // The first tile has all of them made.
    if (store === mine && proxy.width < size.width)
      void fetchTiles(mine, [{ left: 0, top: 0, right: 1, bottom: 1 }]);
  }, AHEAD * 1000);
}

function leaveLevels(opening: number): void {
  const planes = own.get(opening);
  if (!planes) return void left.add(opening);
  own.delete(opening);
  planes.forEach(givePlanesBack);
}

/** A part of the sensor at full size after the source stages; null where not all of it could be fetched. */
function makeFull(from: TileStore, rectangle: SensorRectangle, sources: SourceInputs): PlacedPlanes | null {
  if (sources.length === 0) return assemble(from, rectangle);
  const patches: PlacedPlanes[] = [];
  try {
    return changedPart(rectangle, sources, (each) => {
      const patch = assemble(from, each)!;
      patches.push(patch);
      return patch;
    });
  } finally {
    patches.forEach(givePlanesBack);
  }
}

async function fetchFull(task: Extract<WorkerTask, { kind: 'full' }>): Promise<void> {
  const { number, opening, sources } = task;
  const from = store!;
  const { left: west, top, right, bottom } = task.rectangle;
  const pixels = {
    left: Math.floor(west),
    top: Math.floor(top),
    right: Math.ceil(right),
    bottom: Math.ceil(bottom)
  };
  const rectangle = onSensor(pixels, from.size);
  const needed = rectangle ? rectanglesFor(rectangle, sources) : [];
  const message = await fetchTiles(from, needed);
  const source = rectangle && hasTiles(from, needed) ? makeFull(from, rectangle, sources) : null;
  if (source) {
    full.set(number, source);
    ownFull.add(number);
  }
  const held = source && {
    left: source.originX,
    top: source.originY,
    right: source.originX + source.width,
    bottom: source.originY + source.height
  };
  say({ kind: 'full', number, opening, held, source: shared ? source : null, message });
}

function leaveFull(number: number): void {
  const planes = full.get(number);
  full.delete(number);
  if (planes && ownFull.delete(number)) givePlanesBack(planes);
}

/** Resources by the keys that stages look them up with. */
const resourcesOf = (keys: readonly ResourceKey[]): Resources =>
  new Map(keys.filter(({ key }) => values.has(key)).map(({ ask, key }) => [keyOf(ask), values.get(key)]));

const levelsOf = (developed: string | null): PlacedPlanes[] =>
  developed === null ? levels : ((values.get(developed) as PlacedPlanes[] | undefined) ?? []);

function make({ number, wanted, bytes, developed, resources }: Extract<WorkerTask, { kind: 'make' }>): void {
  try {
    const planes: PlacedPlanes | undefined = levelsOf(developed)[0];
    const from = {
      planes: planes ?? null,
      picture: `${frames} ${developed ?? ''}`,
      toWorking: frame!.toWorking,
      bytes,
      resources: resourcesOf(resources)
    };
    const value = resourceOf(wanted.ask).make(from, wanted.ask.data);
    values.set(wanted.key, value);
    made.add(wanted.key);
    say({ kind: 'made', number, value: shared ? value : null, said: '' });
  } catch (error) {
    say({ kind: 'made', number, value: null, said: (error as Error).message });
  }
}

function drop(key: string, resource: string): void {
  const value = values.get(key);
  values.delete(key);
  if (value !== undefined && made.delete(key)) giveBack(...resourceOf({ resource }).memory(value));
}

function cacheOf(index: number): TileCache {
  const known = caches.get(index);
  if (known) return known;
  const empty: TileCache = new Map();
  caches.set(index, empty);
  return empty;
}

const sourceOf = (name: SourceName): PlacedPlanes | undefined =>
  'level' in name ? levelsOf(name.developed)[name.level] : full.get(name.full);

function drawTile({ drawing, index, source: name, view, draft, meshError, keep, count }: TileTask): void {
  const source = sourceOf(name);
  const inputs = drawings.get(drawing);
  if (!source || !frame || !inputs) return say({ kind: 'tile', drawing, index, pixels: null, counts: null });
  const label = `${frame.frameId} ${JSON.stringify(name)}`;
  const rgba = takeUint8(view.width * view.height * 4);
  try {
    const pack = packRgba8(new Uint8ClampedArray(rgba.buffer, rgba.byteOffset, rgba.length), view.width);
    const request = { source, view, draft, meshError, label, ...inputs };
    renderTile(request, pack, keep ? cacheOf(index) : undefined);
    const counts = count ? countsOf(rgba, view, count) : null;
    const pixels = new Uint8Array(rgba).buffer;
    say({ kind: 'tile', drawing, index, pixels, counts }, [pixels]);
  } finally {
    giveBack(rgba);
  }
}

/** Counts the pixels whose middles lie in a part of the upright plane. */
function countsOf(rgba: Uint8Array, view: View, part: Rectangle): Uint32Array {
  const counts = takeUint32(COUNTS).fill(0);
  const [left, right] = columnsWithin(view.left, view.pixel, view.width, part.x, part.width);
  const [top, bottom] = columnsWithin(view.top, view.pixel, view.height, part.y, part.height);
  for (let row = top; row < bottom && right > left; row++)
    kernels().countColours(addressOf(rgba) + 4 * (row * view.width + left), right - left, addressOf(counts));
  const copy = new Uint32Array(counts);
  giveBack(counts);
  return copy;
}

function answer({
  number,
  question,
  resources: keys,
  developed
}: Extract<WorkerTask, { kind: 'ask' }>): void {
  const [planes] = levelsOf(developed);
  const resources = resourcesOf(keys);
  let found: Answers[keyof Answers] | null = null;
  if (question.kind === 'bake')
    found = bakeLook(question.stages, question.rendering, question.name, resources);
  else if (frame && planes) {
    const light = keys.find(({ ask }) => ask.resource === lightResource.name);
    const lightOf = (): FrameLight => values.get(light!.key) as FrameLight;
    found =
      question.kind === 'covered'
        ? coveredStops(lightOf(), resourceFor(resources, maskResource, question.mask))
        : answerAbout(planes, frame, question, lightOf);
  }
  say({ kind: 'answer', number, answer: found });
}

self.onmessage = ({ data }: MessageEvent<WorkerTask>): void => {
  switch (data.kind) {
    case 'start':
      if (data.memory) useMemory(data.memory);
      shared = data.memory !== null;
      break;
    case 'open':
      open(data.opening, data).catch((error: Error) => {
        if (!(error instanceof KernelsUnavailable)) throw error;
        say({ kind: 'failed', opening: data.opening, message: error.message, again: false });
      });
      break;
    case 'opened elsewhere':
      emptyCaches();
      frame = data.frame;
      frames++;
      levels = data.levels;
      break;
    case 'leave levels':
      leaveLevels(data.opening);
      break;
    case 'ahead':
      proxyAhead(data.frames);
      break;
    case 'full':
      void fetchFull(data);
      break;
    case 'full elsewhere':
      full.set(data.number, data.source);
      break;
    case 'leave full':
      leaveFull(data.number);
      break;
    case 'make':
      make(data);
      break;
    case 'have':
      values.set(data.key, data.value);
      break;
    case 'drop':
      drop(data.key, data.resource);
      break;
    case 'inputs':
      drawings.set(data.number, { stages: data.stages, resources: resourcesOf(data.resources) });
      break;
    case 'done':
      drawings.delete(data.drawing);
      break;
    case 'tile':
      drawTile(data);
      break;
    case 'ask':
      answer(data);
      break;
  }
};
