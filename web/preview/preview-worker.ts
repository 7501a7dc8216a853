/**
 * Renders what the bench shows, with the same code that makes exports. One of the workers opens frames, fetches pixels and
 * answers questions; all draw tiles, from memory that they share. Where pages may share none, there is one worker.
 */
import { bakeLook } from '$core/render/bake-look.ts';
import { readStoredLook } from '$core/steps/colour/looks/stored-look.ts';
import type { TileLook } from '$core/picture/tile/tile.ts';
import { addressOf, giveBack, takeFloat32, takeUint32, takeUint8 } from '$core/picture/kernels/heap.ts';
import { KernelsUnavailable, kernels, useMemory } from '$core/picture/kernels/kernels.ts';
import { giveLightBack, measureLight } from '$core/measure/light/measure-light.ts';
import type { FrameLight } from '$core/picture/tile/frame-light.ts';
import { pyramid } from '$core/picture/tile/halve.ts';
import { type PlacedPlanes, givePlanesBack, placeOn, takePlanes } from '$core/picture/tile/planes.ts';
import { STORED_16, fillPlanes } from '$core/picture/tile/stored-planes.ts';
import { packRgba8 } from '$core/picture/output/pack-pixels.ts';
import { type TileCache, emptyCache, renderTile } from '$core/render/render-tile.ts';
import { answerAbout } from './answers.ts';
import { COUNTS } from './histogram.ts';
import type { AskRequest, OpenFrame, Target, TileTask, WorkerAnswer, WorkerTask } from './messages.ts';
import { proxyAhead, proxyBytes } from './proxies.ts';
import { type TileStore, assembleArea, fetchArea } from './tiles.ts';

let frame: OpenFrame | null = null;
let levels: PlacedPlanes[] = [];
let store: TileStore | null = null;
/** Full-size pixels about what each target shows, and those of them that this worker took memory for. */
const full: Partial<Record<Target, PlacedPlanes>> = {};
const own: PlacedPlanes[] = [];
/** The broad light of the frame, and what of it this worker took memory for. */
let light: FrameLight | null = null;
let ownLight: FrameLight | null = null;
/** The look that was fetched last. */
let look: { id: string; look: TileLook } | null = null;
/** Values of looks that this worker fetched: those of the last but one are no longer drawn from. */
const lookValues: Float32Array[] = [];
let shared = false;
/** Tiles as they were before their pixel stages. */
const caches = new Map<number, TileCache>();

const say = (message: WorkerAnswer, transfer: Transferable[] = []): void =>
  postMessage(message, { transfer });

function forget(): void {
  for (const cache of caches.values()) emptyCache(cache);
  caches.clear();
  for (const target of Object.keys(full) as Target[]) delete full[target];
  own.splice(0).forEach(givePlanesBack);
  if (ownLight) giveLightBack(ownLight);
  light = ownLight = null;
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
  forget();
  const planes = takePlanes(proxy.width, proxy.height);
  fillPlanes(new Uint16Array(bytes), proxy.width, planes, STORED_16);
  levels = pyramid(placeOn(planes, size));
  own.push(...levels);
  frame = opened;
  store = { frameId, size, tiles: new Map() };
  const milliseconds = performance.now() - started;
  say({ kind: 'opened', opening, levels: shared ? levels : [], milliseconds });
  const mine = store;
  setTimeout(() => {
    // The first tile has all of them made.
    if (store === mine && proxy.width < size.width)
      void fetchArea(mine, { left: 0, top: 0, right: 1, bottom: 1 });
  }, AHEAD * 1000);
}

/** Measured once, from the whole proxy. */
function lightOf({ toWorking }: OpenFrame): FrameLight {
  light ??= ownLight = measureLight(levels[0], toWorking);
  return light;
}

async function fetchLook(id: string): Promise<void> {
  const response = await fetch(`/api/looks/${id}`).catch(() => null);
  if (!response?.ok) return say({ kind: 'look', id, found: false, look: null });
  const found = readStoredLook(new Uint8Array(await response.arrayBuffer()));
  const values = takeFloat32(found.values.length);
  values.set(found.values);
  if (lookValues.push(values) > 2) giveBack(lookValues.shift()!);
  look = { id, look: { ...found, values } };
  say({ kind: 'look', id, found: true, look: shared ? look.look : null });
}

async function fetchFull(task: Extract<WorkerTask, { kind: 'full' }>): Promise<void> {
  const { opening, drawing, target, area } = task;
  const from = store!;
  const message = await fetchArea(from, area);
  if (store !== from) return;
  const source = assembleArea(from, area);
  if (source) {
    const before = full[target];
    if (before) {
      own.splice(own.indexOf(before), 1);
      givePlanesBack(before);
    }
    full[target] = source;
    own.push(source);
  }
  const held = source && {
    left: source.originX,
    top: source.originY,
    right: source.originX + source.width,
    bottom: source.originY + source.height
  };
  say({ kind: 'full', opening, drawing, target, held, source: shared ? source : null, message });
}

function cacheOf(index: number): TileCache {
  const known = caches.get(index);
  if (known) return known;
  const made: TileCache = new Map();
  caches.set(index, made);
  return made;
}

function drawTile({
  drawing,
  index,
  source: name,
  view,
  stages,
  draft,
  meshError,
  keep,
  count
}: TileTask): void {
  const source = 'level' in name ? levels[name.level] : full[name.full];
  if (!source || !frame) return;
  const label = `${frame.frameId} ${JSON.stringify(name)} ${source.originX} ${source.originY}`;
  const rgba = takeUint8(view.width * view.height * 4);
  try {
    const pack = packRgba8(new Uint8ClampedArray(rgba.buffer, rgba.byteOffset, rgba.length), view.width);
    renderTile(
      { source, stages, view, draft, meshError, label, light, look: look?.look ?? null },
      pack,
      keep ? cacheOf(index) : undefined
    );
    const counts = count ? countsOf(rgba) : null;
    const pixels = new Uint8Array(rgba).buffer;
    say({ kind: 'tile', drawing, index, pixels, counts }, [pixels]);
  } finally {
    giveBack(rgba);
  }
}

function countsOf(rgba: Uint8Array): Uint32Array {
  const counts = takeUint32(COUNTS).fill(0);
  kernels().countColours(addressOf(rgba), rgba.length / 4, addressOf(counts));
  const copy = new Uint32Array(counts);
  giveBack(counts);
  return copy;
}

function answer(question: AskRequest): void {
  const opened = frame;
  if (!opened) return;
  const found =
    question.kind === 'bake'
      ? bakeLook(question.stages, question.rendering, question.name, look?.look)
      : answerAbout(levels[0], opened, question, () => lightOf(opened));
  say({ kind: 'answer', number: question.number, answer: found });
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
      forget();
      frame = data.frame;
      levels = data.levels;
      break;
    case 'ahead':
      proxyAhead(data.frames);
      break;
    case 'full':
      void fetchFull(data);
      break;
    case 'full elsewhere':
      full[data.target] = data.source;
      break;
    case 'light':
      if (frame) {
        const measured = lightOf(frame);
        say({ kind: 'light', opening: data.opening, light: shared ? measured : null });
      }
      break;
    case 'light elsewhere':
      light = data.light;
      break;
    case 'look':
      void fetchLook(data.look);
      break;
    case 'look elsewhere':
      look = { id: data.id, look: data.look };
      break;
    case 'tile':
      drawTile(data);
      break;
    default:
      answer(data);
  }
};
