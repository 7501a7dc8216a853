/**
 * Renders what the bench shows, with the same code that makes exports: from the proxy, and from full-size tiles
 * where the view is finer than the proxy. The resampled planes are kept, so that a change of light alone does
 * not resample again.
 */
import { halfDiagonal } from '$core/math/frame-geometry.ts';
import { toRgba8 } from '$core/output/quantise.ts';
import { type MapMesh, buildMesh } from '$core/geometry/build-mesh.ts';
import { pyramid } from '$core/tile/halve.ts';
import { type PlacedPlanes, type Planes, allocatePlanes } from '$core/tile/planes.ts';
import { resample } from '$core/geometry/resample.ts';
import { fillPlanes } from '$core/tile/fill-planes.ts';
import { FRINGE_WIDTH, removeFringe } from '$core/fringe/remove-fringe.ts';
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

interface Resampled {
  key: string;
  mesh: MapMesh;
  planes: Planes;
}

let open: Open | null = null;
let kept: Resampled | null = null;
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
  fillPlanes(new Uint16Array(await response.arrayBuffer()), width, planes);
  const source: PlacedPlanes = {
    ...planes,
    originX: 0,
    originY: 0,
    scaleX: width / request.size.width,
    scaleY: height / request.size.height
  };
  open = {
    request,
    levels: pyramid(source),
    store: { frameId: request.frameId, size: request.size, tiles: new Map() }
  };
  kept = null;
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
  if (!open) return;
  const started = performance.now();
  const { view, projection, falloff, fringes, draft, target, number } = request;
  const { rendering, toWorking, size } = open.request;
  const key = JSON.stringify([label, view, projection, draft, fringes]);
  let resampled = kept?.key === key ? kept : null;
  if (!resampled) {
    // An error of a twentieth of a screen pixel cannot be seen; in motion, a quarter cannot.
    const limit = Math.max(0.02, (draft ? 0.25 : 0.05) * view.pixel * halfDiagonal(projection.size));
    const mesh = buildMesh(projection, view, limit);
    const planes =
      kept && target === 'sheet' && kept.planes.r.length === view.width * view.height
        ? kept.planes
        : allocatePlanes(view.width, view.height);
    resample(source, mesh, planes, { draft });
    if (!draft) removeFringe(planes, { colours: fringes, width: FRINGE_WIDTH / view.pixel, toWorking });
    resampled = { key, mesh, planes };
    if (target === 'sheet') kept = resampled;
  }
  const rgba = new Uint8ClampedArray(view.width * view.height * 4);
  toRgba8(resampled.planes, resampled.mesh, rgba, { rendering, toWorking, falloff, size });
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

async function handleDraw(wanted: DrawRequest): Promise<void> {
  if (!open || newest[wanted.target] !== wanted.number) return;
  const current = open;
  const coarse = wanted.draft && wanted.target === 'sheet';
  const request = coarse ? { ...wanted, view: draftView(wanted.view, millisecondsPerPixel) } : wanted;
  const { view, projection, draft, target, number } = request;
  const proxyPixels = view.pixel * halfDiagonal(projection.size) * current.levels[0].scaleX;
  // Reduced first by halves: the level whose pixels are no larger than the screen's, or nearest for a draft.
  const fine = draft
    ? Math.round(Math.log2(Math.max(1, proxyPixels)))
    : Math.floor(Math.log2(Math.max(1, proxyPixels)));
  const level = Math.min(current.levels.length - 1, fine);
  const wantsFull = !draft && proxyPixels < 0.98 && current.levels[0].scaleX < 0.999;
  if (wantsFull) {
    const area = areaOf(buildMesh(projection, view, 1));
    let full = assembleArea(current.store, area);
    if (!full) {
      draw(request, current.levels[level], `proxy${level}`, false);
      say({ kind: 'fetching', waiting: true });
      await fetchArea(current.store, area);
      say({ kind: 'fetching', waiting: false });
      if (open !== current || newest[target] !== number) return;
      full = assembleArea(current.store, area);
    }
    if (full) draw(request, full, 'full', true);
    return;
  }
  draw(request, current.levels[level], `proxy${level}`, true);
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
