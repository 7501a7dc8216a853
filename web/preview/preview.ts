/**
 * The bench's end of the preview: cuts what is to be drawn into tiles, hands them to the workers, those about the pointer
 * first, and puts them together. A newer picture takes the place of one at rest at once; one in motion is finished, so that
 * a steady hand sees steady progress. Workers stay from frame to frame, and are started anew when one dies.
 */
import type { FrameSize, Point } from '$core/math/frame-geometry.ts';
import { halfDiagonal } from '$core/math/frame-geometry.ts';
import { buildMesh } from '$core/picture/geometry/build-mesh.ts';
import { levelFor } from '$core/render/levels.ts';
import { areaKey } from '$core/render/render-tile.ts';
import { type StageInputs, lookOf, needsLight } from '$core/render/stages.ts';
import type { OutputSpace } from '$core/colour/rgb-spaces.ts';
import { halfSize } from '$core/picture/tile/halve.ts';
import type { View } from '$core/picture/tile/mesh.ts';
import { draftView, followed, keepsUp } from './draft-view.ts';
import { COUNTS, histogramOf } from './histogram.ts';
import type {
  Answers,
  Area,
  AskRequest,
  Histogram,
  OpenFrame,
  SourceName,
  Target,
  WorkerAnswer
} from './messages.ts';
import { type ViewTile, bandsOf, nearestFirst, putTile, tilesOf } from './view-tiles.ts';
import { type Workers, startWorkers } from './workers.ts';

export interface Drawn {
  target: Target;
  /** What it shows; a picture in motion has fewer pixels than the view. */
  view: View;
  draft: boolean;
  /** What its values are of. */
  space: OutputSpace;
  /** True when the picture was made from full-size pixels, or needs none. */
  sharp: boolean;
  width: number;
  height: number;
  pixels: Uint8ClampedArray<ArrayBuffer>;
  histogram: Histogram | null;
  milliseconds: number;
}

export interface Wanted {
  target: Target;
  stages: StageInputs;
  view: View;
  /** Coarse but fast: for a picture in motion. */
  draft: boolean;
  /** Place of the view that is looked at: what lies about it is drawn first. */
  about?: Point | null;
}

type Question = AskRequest extends infer Each
  ? Each extends AskRequest
    ? Omit<Each, 'number'>
    : never
  : never;

export interface Preview {
  draw(wanted: Wanted): void;
  /** Asks about the picture itself. */
  ask<K extends keyof Answers>(question: Extract<Question, { kind: K }>): Promise<Answers[K]>;
  /** Frames that may be opened next. */
  ahead(frames: string[]): void;
  close(): void;
}

export interface PreviewListeners {
  opened(): void;
  failed(message: string): void;
  fetching(waiting: boolean): void;
  /** Something could not be had; empty when it can be again. */
  missing(message: string): void;
  drawn(picture: Drawn): void;
}

/** Pixels across and down a tile. */
const EDGE = 320;
/** Milliseconds for which workers are kept after the last frame was left. */
const KEPT = 30_000;
/** Pixels of the sensor that are fetched beyond those of a view, so that it can be moved. */
const SPARE = 192;
/** Milliseconds that a soft picture waits for a sharp one. */
const SOON = 150;
/** Milliseconds after which a worker with a tile in hand counts as dead. */
const PATIENCE = 10_000;
/** The workers are started anew this often for one frame; after that something is wrong that does not go away. */
const MOST_STARTS = 4;

/** A picture that is being drawn. */
interface Drawing {
  number: number;
  wanted: Wanted;
  /** What is drawn: the view itself, or a coarser one of the same. */
  view: View;
  draft: boolean;
  source: SourceName;
  sharp: boolean;
  key: string;
  waiting: ViewTile[];
  tiles: ViewTile[];
  left: number;
  pixels: Uint8ClampedArray<ArrayBuffer>;
  counts: Uint32Array;
  started: number;
}

/** Which drawing goes first, of those that wait. */
const ORDER: readonly Target[] = ['magnifier', 'sheet', 'small', 'overview'];

/** Workers of the frame that was open last, for the next one. */
let spare: Workers | null = null;
let spareEnds: ReturnType<typeof setTimeout> | undefined;
let heard: ((worker: number, answer: WorkerAnswer) => void) | null = null;
let died: (() => void) | null = null;
let openings = 0;
/** Drawings and questions are numbered through: answers to those of an earlier frame are told apart. */
let numbers = 0;
/** What a pixel of a picture in motion takes on this machine. */
let millisecondsPerPixel = 0;
/** The same of a picture at rest of which only the light changed. */
let relitPerPixel = 0;

/** Sensor area that a view reaches, with room for the kernel. */
function areaOf(stages: StageInputs, view: View): Area {
  const mesh = buildMesh(stages.geometry, view, 1);
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

/** Whether all of an area that lies on the sensor is in another. */
const isWithin = (area: Area, other: Area, { width, height }: FrameSize): boolean =>
  Math.max(0, area.left) >= other.left &&
  Math.max(0, area.top) >= other.top &&
  Math.min(width, area.right) <= other.right &&
  Math.min(height, area.bottom) <= other.bottom;

/** Sizes of a proxy and its halves, as the worker makes them. */
function countLevels(proxy: FrameSize, smallest = 256): number {
  let [size, count] = [proxy, 1];
  while (Math.max(size.width, size.height) > smallest * 2) [size, count] = [halfSize(size), count + 1];
  return count;
}

export function openPreview(frame: OpenFrame, listeners: PreviewListeners): Preview {
  let workers: Workers;
  let opening = ++openings;
  let starts = 0;
  let ready = false;
  /** Whether the broad light of the frame is known to the workers. */
  let lit: 'no' | 'asked' | 'yes' = 'no';
  /** The look that the workers have, and the one that was asked for; one that cannot be had is asked for once. */
  let look: string | null = null;
  let lookAsked: string | null = null;
  let lookMissing: string | null = null;
  let closed = false;
  let neighbours: string[] = [];
  const levels = countLevels(frame.proxy);
  const scale = frame.proxy.width / frame.size.width;
  const drawings: Partial<Record<Target, Drawing>> = {};
  /** What is to be drawn when the picture in motion is there, or once the frame is open. */
  const next: Partial<Record<Target, Wanted>> = {};
  const last: Partial<Record<Target, Wanted>> = {};
  /** What each worker has in hand: the time it was given a tile. */
  let busy: (number | null)[] = [];
  /** What the picture at rest depends on before its light. */
  let rested = '';
  let restedFrom: Pick<Drawing, 'source' | 'sharp'> | null = null;
  /** The newest fetching of full-size pixels for each target, and what there is of them. */
  const fetching: Partial<Record<Target, number>> = {};
  const held: Partial<Record<Target, Area>> = {};
  const asked = new Map<number, { question: Question; resolve: (answer: never) => void }>();

  const meshErrorOf = ({ view, wanted: { stages }, draft }: Drawing): number =>
    // An error of a twentieth of a screen pixel cannot be seen; in motion, a quarter cannot.
    Math.max(0.02, (draft ? 0.25 : 0.05) * view.pixel * halfDiagonal(stages.geometry.size));

  function give(
    worker: number,
    { number: drawing, wanted, source, draft, ...rest }: Drawing,
    tile: ViewTile
  ): void {
    busy[worker] = performance.now();
    workers.tell(worker, {
      kind: 'tile',
      drawing,
      index: tile.index,
      source,
      view: tile.view,
      stages: wanted.stages,
      draft,
      meshError: meshErrorOf({ number: drawing, wanted, source, draft, ...rest }),
      keep: wanted.target === 'sheet' && !draft,
      count: wanted.target === 'sheet'
    });
  }

  /** Gives every worker without a tile one: of those it drew before, else any that waits. */
  function work(): void {
    for (let worker = 0; worker < workers.count; worker++) {
      if (busy[worker] !== null) continue;
      for (const target of ORDER) {
        const drawing = drawings[target];
        if (!drawing || drawing.waiting.length === 0) continue;
        const mine = drawing.waiting.findIndex(({ index }) => index % workers.count === worker);
        const [tile] = drawing.waiting.splice(Math.max(0, mine), 1);
        give(worker, drawing, tile);
        break;
      }
    }
  }

  function begin(
    wanted: Wanted,
    how: Pick<Drawing, 'view' | 'draft' | 'source' | 'sharp'> & { cut: ViewTile[]; key: string }
  ): void {
    const { cut, ...rest } = how;
    const tiles = wanted.about ? nearestFirst(cut, wanted.about) : cut;
    const { width, height } = how.view;
    drawings[wanted.target] = {
      ...rest,
      number: ++numbers,
      wanted,
      tiles: cut,
      waiting: [...tiles],
      left: tiles.length,
      pixels: new Uint8ClampedArray(width * height * 4),
      counts: new Uint32Array(COUNTS),
      started: performance.now()
    };
    work();
  }

  /** The proxy's half that a view is drawn from. */
  function proxyFor(stages: StageInputs, view: View, draft: boolean): SourceName {
    const reduction = view.pixel * halfDiagonal(stages.geometry.size) * scale;
    return { level: Math.min(levels - 1, levelFor(reduction, draft)) };
  }

  const keyOf = ({ view, stages }: Pick<Wanted, 'view' | 'stages'>): string =>
    JSON.stringify(view) + areaKey(stages);

  function start(asked: Wanted): void {
    const { target, view } = asked;
    // One that cannot be had is left out, and said to be missing.
    const left = lookMissing !== null && lookOf(asked.stages) === lookMissing;
    const stages = left ? { ...asked.stages, look: null } : asked.stages;
    const wanted = { ...asked, stages };
    last[target] = wanted;
    if (needsLight(stages) && lit !== 'yes') {
      next[target] = wanted;
      if (lit === 'no') workers.tell(0, { kind: 'light', opening });
      lit = 'asked';
      return;
    }
    const named = lookOf(stages);
    if (named !== null && named !== look) {
      next[target] = wanted;
      if (lookAsked !== named) workers.tell(0, { kind: 'look', look: named });
      lookAsked = named;
      return;
    }
    const key = keyOf(wanted);
    if (wanted.draft && target === 'sheet') {
      // While only light changes, the picture at rest is the faster one, and the better, as long as it keeps up.
      if (key === rested && restedFrom && keepsUp(view, relitPerPixel))
        return begin(wanted, { ...restedFrom, view, draft: false, key, cut: tilesOf(view, EDGE) });
      const coarse = draftView(view, Math.max(millisecondsPerPixel, key === rested ? relitPerPixel : 0));
      const source = proxyFor(stages, coarse, true);
      const cut = bandsOf(coarse, workers.count);
      return begin(wanted, { view: coarse, draft: true, source, sharp: true, key, cut });
    }
    const finer = view.pixel * halfDiagonal(stages.geometry.size) * scale < 0.98 && scale < 0.999;
    const cut = tilesOf(view, EDGE);
    const fromProxy = (sharp: boolean): void => {
      const source = proxyFor(stages, view, wanted.draft);
      begin(wanted, { view, draft: wanted.draft, source, sharp, key, cut });
    };
    if (wanted.draft || !finer) return fromProxy(true);
    const area = areaOf(stages, view);
    const known = held[target];
    if (known && isWithin(area, known, frame.size))
      return begin(wanted, { view, draft: false, source: { full: target }, sharp: true, key, cut });
    fetchFull(wanted, area);
    // A sharp picture is not followed by a soft one where sharp pixels are soon there.
    if (!restedFrom?.sharp || target !== 'sheet') return fromProxy(false);
    setTimeout(() => last[target] === wanted && !drawings[target] && ready && fromProxy(false), SOON);
  }

  /** Asks for the full-size pixels of a view, and of some more about it. */
  function fetchFull({ target }: Wanted, { left, top, right, bottom }: Area): void {
    fetching[target] = ++numbers;
    listeners.fetching(true);
    const area = { left: left - SPARE, top: top - SPARE, right: right + SPARE, bottom: bottom + SPARE };
    workers.tell(0, { kind: 'full', opening, drawing: numbers, target, area });
  }

  function takeTile(answer: Extract<WorkerAnswer, { kind: 'tile' }>): void {
    const drawing = Object.values(drawings).find((each) => each.number === answer.drawing);
    if (!drawing) return;
    const { target } = drawing.wanted;
    const { width, height } = drawing.view;
    const tile = drawing.tiles[answer.index];
    putTile(drawing.pixels, width, tile, new Uint8ClampedArray(answer.pixels));
    answer.counts?.forEach((count, i) => (drawing.counts[i] += count));
    if (--drawing.left > 0) return;
    delete drawings[target];
    const milliseconds = performance.now() - drawing.started;
    if (drawing.draft && target === 'sheet')
      millisecondsPerPixel = followed(millisecondsPerPixel, milliseconds, drawing.view);
    if (target === 'sheet' && !drawing.draft) {
      if (drawing.key === rested) relitPerPixel = followed(relitPerPixel, milliseconds, drawing.view);
      rested = drawing.key;
      restedFrom = { source: drawing.source, sharp: drawing.sharp };
    }
    const histogram = target === 'sheet' ? histogramOf(drawing.counts) : null;
    const { wanted, sharp, pixels } = drawing;
    listeners.drawn({
      target,
      view: wanted.view,
      draft: wanted.draft,
      space: wanted.stages.encode!.space,
      sharp,
      width,
      height,
      pixels,
      histogram,
      milliseconds
    });
    const following = next[target];
    delete next[target];
    if (following) start(following);
  }

  /** Full-size pixels have come: the picture that asked for them is drawn again, if it is still wanted. */
  function takeFull(answer: Extract<WorkerAnswer, { kind: 'full' }>): void {
    const { target, source, drawing, message } = answer;
    const current = fetching[target] === drawing;
    if (current) listeners.fetching(false);
    listeners.missing(message);
    held[target] = answer.held ?? undefined;
    // Without shared memory the planes stay where they are, in the one worker there is.
    if (source)
      for (let worker = 1; worker < workers.count; worker++)
        workers.tell(worker, { kind: 'full elsewhere', target, source });
    const wanted = last[target];
    if (!answer.held || !current || !wanted || wanted.draft || next[target]) return;
    begin(wanted, {
      view: wanted.view,
      draft: false,
      source: { full: target },
      sharp: true,
      key: keyOf(wanted),
      cut: tilesOf(wanted.view, EDGE)
    });
  }

  /** Draws what waited. */
  function startNext(): void {
    for (const target of ORDER) {
      const wanted = next[target];
      delete next[target];
      if (wanted) start(wanted);
    }
  }

  function hear(worker: number, answer: WorkerAnswer): void {
    if ('opening' in answer && answer.opening !== opening) return;
    if (answer.kind === 'opened') {
      for (let other = 1; other < workers.count; other++)
        workers.tell(other, { kind: 'opened elsewhere', frame, levels: answer.levels });
      ready = true;
      listeners.opened();
      for (const { question, number: asking } of [...asked].map(([n, { question }]) => ({
        question,
        number: n
      })))
        workers.tell(0, { ...question, number: asking });
      for (const target of ORDER) next[target] ??= last[target];
      startNext();
      workers.tell(0, { kind: 'ahead', frames: neighbours });
    } else if (answer.kind === 'light') {
      lit = 'yes';
      for (let other = 1; answer.light && other < workers.count; other++)
        workers.tell(other, { kind: 'light elsewhere', light: answer.light });
      startNext();
    } else if (answer.kind === 'look') {
      if (!answer.found) {
        lookMissing = answer.id;
        listeners.missing(
          'The look of this frame could not be had. Choose another on the page Looks of Colour.'
        );
        return startNext();
      }
      listeners.missing('');
      look = answer.id;
      for (let other = 1; answer.look && other < workers.count; other++)
        workers.tell(other, { kind: 'look elsewhere', id: answer.id, look: answer.look });
      startNext();
    } else if (answer.kind === 'failed') {
      listeners.failed(answer.message);
      if (answer.again) setTimeout(() => !closed && !ready && openFrame(), 2000);
    } else if (answer.kind === 'full') takeFull(answer);
    else if (answer.kind === 'answer') {
      asked.get(answer.number)?.resolve(answer.answer as never);
      asked.delete(answer.number);
    } else {
      busy[worker] = null;
      takeTile(answer);
      work();
    }
  }

  function openFrame(): void {
    opening = ++openings;
    lit = 'no';
    look = lookAsked = lookMissing = null;
    workers.tell(0, { kind: 'open', opening, ...frame });
  }

  function begun(): boolean {
    heard = hear;
    died = again;
    try {
      clearTimeout(spareEnds);
      workers = spare ?? startWorkers({ heard: (i, answer) => heard?.(i, answer), died: () => died?.() });
    } catch (error) {
      listeners.failed((error as Error).message);
      return false;
    }
    spare = null;
    busy = new Array<number | null>(workers.count).fill(null);
    rested = '';
    restedFrom = null;
    for (const target of ORDER) delete held[target];
    openFrame();
    return true;
  }

  /** The picture comes again by itself. */
  function again(): void {
    workers.end();
    ready = false;
    for (const target of ORDER) {
      delete drawings[target];
      delete next[target];
    }
    if (++starts < MOST_STARTS) begun();
    else listeners.failed('The preview stopped several times. Reload the page to go on; nothing is lost.');
  }

  const running = begun();
  const watch = setInterval(() => {
    const now = performance.now();
    // A question may take its time; nobody is given a tile meanwhile that is not answered after it.
    if (asked.size === 0 && busy.some((since) => since !== null && now - since > PATIENCE)) again();
  }, 1000);

  return {
    draw(wanted) {
      const current = drawings[wanted.target];
      if (!ready || (current?.wanted.draft && wanted.draft)) next[wanted.target] = wanted;
      else {
        delete next[wanted.target];
        start(wanted);
      }
    },
    ask: (question) =>
      new Promise((resolve) => {
        const number = ++numbers;
        asked.set(number, { question, resolve: resolve as (answer: never) => void });
        if (ready) workers.tell(0, { ...question, number });
      }),
    ahead(frames) {
      neighbours = frames;
      if (ready) workers.tell(0, { kind: 'ahead', frames });
    },
    close() {
      closed = true;
      clearInterval(watch);
      heard = null;
      died = null;
      if (!running) return;
      spare = workers;
      spareEnds = setTimeout(() => {
        spare?.end();
        spare = null;
      }, KEPT);
    }
  };
}
