/**
 * Renders what the bench shows, with the same code that makes exports: from the proxy, and from full-size tiles
 * where the view is finer than the proxy.
 */
import { halfDiagonal } from '$core/math/frame-geometry.ts';
import { buildMesh } from '$core/geometry/build-mesh.ts';
import type { MapMesh } from '$core/tile/mesh.ts';
import { pyramid } from '$core/tile/halve.ts';
import { type PlacedPlanes, allocatePlanes, placeOn } from '$core/tile/planes.ts';
import { STORED_TO_WHITE_16, fillPlanes } from '$core/tile/stored-planes.ts';
import { packRgba8 } from '$core/output/pack-pixels.ts';
import { levelFor } from '$core/render/levels.ts';
import { type TileCache, type TileRequest, isKept, renderTile } from '$core/render/render-tile.ts';
import { draftView, followed } from './draft-view.ts';
import { answerAbout } from './answers.ts';
import { histogramOf } from './histogram.ts';
import type { AskRequest, DrawRequest, OpenRequest, WorkerAnswer } from './messages.ts';
import { type Area, type TileStore, assembleArea, fetchArea } from './tiles.ts';

interface Open {
  request: OpenRequest;
  levels: PlacedPlanes[];
  store: TileStore;
}

let open: Open | null = null;
/** What was resampled last, at rest and in motion: a change of light alone starts from there. */
const resting: TileCache = new Map();
const moving: TileCache = new Map();
/** What the picture at rest was drawn from. */
let rested: [PlacedPlanes, string] | null = null;
/** What a pixel of a picture in motion takes on this machine. */
let millisecondsPerPixel = 0;
/** Newest request number of each target: older ones are not worth finishing. */
const newest: Record<DrawRequest['target'], number> = { sheet: 0, magnifier: 0, small: 0 };

const say = (message: WorkerAnswer, transfer: Transferable[] = []): void =>
  postMessage(message, { transfer });

async function openFrame(request: OpenRequest): Promise<void> {
  const started = performance.now();
  const response = await fetch(`/api/frames/${request.frameId}/proxy`);
  if (!response.ok) {
    say({ kind: 'failed', message: 'The picture could not be loaded. Reload the page to try again.' });
    return;
  }
  const { width, height } = request.proxy;
  const planes = allocatePlanes(width, height);
  fillPlanes(new Uint16Array(await response.arrayBuffer()), width, planes, STORED_TO_WHITE_16);
  open = {
    request,
    levels: pyramid(placeOn(planes, request.size)),
    store: { frameId: request.frameId, size: request.size, tiles: new Map() }
  };
  rested = null;
  resting.clear();
  moving.clear();
  say({ kind: 'opened', milliseconds: performance.now() - started });
}

/** Sensor area that a mesh reaches, with room for the kernel. */
function areaOf(mesh: MapMesh): Area {
  const area: Area = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = 0; i < mesh.x.length; i++) {
    if (Number.isNaN(mesh.x[i])) continue;
    area.left = Math.min(area.left, mesh.x[i] - 4);
    area.right = Math.max(area.right, mesh.x[i] + 4);
    area.top = Math.min(area.top, mesh.y[i] - 4);
    area.bottom = Math.max(area.bottom, mesh.y[i] + 4);
  }
  return area;
}

function draw(request: DrawRequest, source: PlacedPlanes, label: string, sharp: boolean): void {
  const started = performance.now();
  const { view, target, number, draft } = request;
  const rgba = new Uint8ClampedArray(view.width * view.height * 4);
  renderTile(
    tileOf(request, source, label),
    packRgba8(rgba, view.width),
    target === 'sheet' ? (draft ? moving : resting) : undefined
  );
  if (target === 'sheet' && !draft) rested = [source, label];
  if (draft && target === 'sheet')
    millisecondsPerPixel = followed(millisecondsPerPixel, performance.now() - started, view);
  say(
    {
      kind: 'drawn',
      target,
      number,
      draft,
      sharp,
      width: view.width,
      height: view.height,
      pixels: rgba.buffer,
      histogram: target === 'sheet' ? histogramOf(rgba) : null,
      milliseconds: performance.now() - started
    },
    [rgba.buffer]
  );
}

function tileOf({ view, stages, draft }: DrawRequest, source: PlacedPlanes, label: string): TileRequest {
  // An error of a twentieth of a screen pixel cannot be seen; in motion, a quarter cannot.
  const share = draft ? 0.25 : 0.05;
  const meshError = Math.max(0.02, share * view.pixel * halfDiagonal(stages.geometry.size));
  return { source, stages, view, draft, meshError, label };
}

/** The proxy's half that a view is drawn from, named for what is kept. */
function proxyFor({ view, stages, draft }: DrawRequest, { levels }: Open): [PlacedPlanes, string] {
  const reduction = view.pixel * halfDiagonal(stages.geometry.size) * levels[0].scaleX;
  const level = Math.min(levels.length - 1, levelFor(reduction, draft));
  return [levels[level], `proxy${level}`];
}

async function handleDraw(wanted: DrawRequest): Promise<void> {
  if (!open || newest[wanted.target] !== wanted.number) return;
  const current = open;
  const { target, number } = wanted;
  if (wanted.draft && target === 'sheet') {
    // While only light changes, the picture at rest is the faster one, and the better.
    const still: DrawRequest = { ...wanted, draft: false };
    if (rested && isKept(resting, tileOf(still, ...rested))) return draw(still, ...rested, true);
    const coarse = { ...wanted, view: draftView(wanted.view, millisecondsPerPixel) };
    return draw(coarse, ...proxyFor(coarse, current), true);
  }
  const { view, stages } = wanted;
  const proxyPixels = view.pixel * halfDiagonal(stages.geometry.size) * current.levels[0].scaleX;
  const wantsFull = !wanted.draft && proxyPixels < 0.98 && current.levels[0].scaleX < 0.999;
  if (!wantsFull) return draw(wanted, ...proxyFor(wanted, current), true);
  const area = areaOf(buildMesh(stages.geometry, view, 1));
  let full = assembleArea(current.store, area);
  if (!full) {
    draw(wanted, ...proxyFor(wanted, current), false);
    say({ kind: 'fetching', waiting: true });
    await fetchArea(current.store, area);
    say({ kind: 'fetching', waiting: false });
    if (open !== current || newest[target] !== number) return;
    full = assembleArea(current.store, area);
  }
  if (full) draw(wanted, full, 'full', true);
}

self.onmessage = ({ data }: MessageEvent<OpenRequest | DrawRequest | AskRequest>): void => {
  if (data.kind === 'open') void openFrame(data);
  else if (data.kind !== 'draw') {
    if (open)
      say({ kind: 'answer', number: data.number, answer: answerAbout(open.levels[0], open.request, data) });
  } else {
    newest[data.target] = data.number;
    // Requests that have queued up meanwhile are heard first; then only the newest is drawn.
    setTimeout(() => void handleDraw(data), 0);
  }
};
