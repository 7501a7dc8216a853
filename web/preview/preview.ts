/**
 * The bench's end of the preview: decides from which pixels, how finely and when each picture is drawn. A newer picture takes
 * the place of one at rest at once; one in motion is finished, so that a steady hand sees steady progress. Workers stay from
 * frame to frame, and are started anew when one dies.
 */
import type { FrameSize, Point } from '$core/math/frame-geometry.ts';
import { halfDiagonal } from '$core/math/frame-geometry.ts';
import { buildMesh } from '$core/picture/geometry/build-mesh.ts';
import { askForLight } from '$core/measure/light/light-resource.ts';
import { developedAsk } from '$core/render/developed-resource.ts';
import { levelFor } from '$core/render/levels.ts';
import type { Lease, ResourceLoader } from '$core/render/load-resources.ts';
import { coloursAlone } from '$core/render/bake-look.ts';
import { neighbourhoodKey } from '$core/render/render-tile.ts';
import { type SourceInputs, sourceInputs } from '$core/render/source-planes.ts';
import { resourceOf } from '$core/render/resources.ts';
import { type StageInputs, asksOf, laidOf, without } from '$core/render/stages.ts';
import type { OutputSpace } from '$core/colour/rgb-spaces.ts';
import { halfSize } from '$core/picture/tile/halve.ts';
import type { View } from '$core/picture/tile/mesh.ts';
import type { Ask } from '$core/picture/tile/resource.ts';
import type { SensorRectangle } from '$core/picture/tile/sensor-rectangle.ts';
import { hashOf } from '$core/settings/hash.ts';
import { RENDITION } from '$core/settings/rendition.ts';
import { maskAsk } from '$core/steps/areas/mask-resource.ts';
import type { Rectangle } from '$core/steps/crop/rectangle.ts';
import { type Crew, createCrew } from './crew.ts';
import { type FetchBytes, crewResources, frameName } from './crew-resources.ts';
import { draftView, followed, keepsUp } from './draft-view.ts';
import { createFullPixels, fullName } from './full-pixels.ts';
import { histogramOf } from './histogram.ts';
import { type Lent, createLent } from './lent.ts';
import type {
  Answers,
  Histogram,
  OpenFrame,
  Question,
  SourceName,
  Target,
  WorkerAnswer
} from './messages.ts';
import { type DrawingOrder, ORDER, type Scheduler, createScheduler } from './scheduler.ts';
import { bandsOf, nearestFirst, tilesOf } from './view-tiles.ts';
import { startWorkers } from './workers.ts';

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
  /** The part of the picture that its histogram is of; without one there is none. */
  count?: Rectangle | null;
  /** Place of the view that is looked at: what lies about it is drawn first. */
  about?: Point | null;
}

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
/** Milliseconds that a soft picture waits for a sharp one. */
const SOON = 150;
/** Milliseconds after which what lies about a sharp picture is fetched: workers are done with it by then. */
const WIDENED = 400;
/** The workers are started anew this often for one frame; after that something is wrong that does not go away. */
const MOST_STARTS = 4;
/** Milliseconds after which opening is tried again where the server did not answer. */
const AGAIN = 2000;

/** Questions that are answered by the broad light of the frame. */
const LIT: readonly Question['kind'][] = ['base', 'hues', 'cast', 'bands', 'white', 'tone', 'covered'];

/** The workers, and what they hold whichever frame is open. */
interface House {
  crew: Crew;
  resources: ResourceLoader;
  lent: Lent;
  scheduler: Scheduler;
  /** Whoever has a frame open; what it does not know of is of an earlier one. */
  tenant: { said(answer: WorkerAnswer): boolean; died(): void } | null;
}

/** Those of the frame that was open last, for the next one. */
let spare: House | null = null;
let spareEnds: ReturnType<typeof setTimeout> | undefined;
let openings = 0;
let questions = 0;
/** What a pixel of a picture in motion takes on this machine. */
let millisecondsPerPixel = 0;
/** The same of a picture at rest of which only the light changed. */
let relitPerPixel = 0;

const fetchBytes: FetchBytes = async (path) => {
  const response = await fetch(`/api/${path}`).catch(() => null);
  return response?.ok ? new Uint8Array(await response.arrayBuffer()) : null;
};

export const levelsName = (opening: number): string => `levels ${opening}`;

/** Throws where there is no memory. */
function startHouse(): House {
  const house = { tenant: null } as unknown as House;
  house.crew = createCrew(startWorkers, {
    said(_, answer) {
      if (house.tenant?.said(answer) || answer.kind !== 'full' || !answer.held) return;
      // Pixels of a frame that was left meanwhile.
      house.crew.tell(0, { kind: 'leave full', number: answer.number });
    },
    free: () => house.scheduler.work(),
    died() {
      if (spare === house) spare = null;
      house.tenant?.died();
    }
  });
  house.lent = createLent((name) => {
    const [kind, number] = name.split(' ');
    if (kind === 'levels') house.crew.tell(0, { kind: 'leave levels', opening: Number(number) });
    else house.crew.tellAll({ kind: 'leave full', number: Number(number) });
  });
  house.resources = crewResources(house.crew, fetchBytes);
  house.scheduler = createScheduler(house.crew);
  return house;
}

/** Rectangle of the sensor that a view reaches, with room for the kernel. */
function reachOf(stages: StageInputs, view: View): SensorRectangle {
  const mesh = buildMesh(stages.geometry, view, 1);
  const reach: SensorRectangle = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = 0; i < mesh.x.length; i++) {
    if (Number.isNaN(mesh.x[i])) continue;
    reach.left = Math.min(reach.left, mesh.x[i] - 4);
    reach.right = Math.max(reach.right, mesh.x[i] + 4);
    reach.top = Math.min(reach.top, mesh.y[i] - 4);
    reach.bottom = Math.max(reach.bottom, mesh.y[i] + 4);
  }
  return reach;
}

/** Sizes of a proxy and its halves, as the worker makes them. */
function countLevels(proxy: FrameSize, smallest = 256): number {
  let [size, count] = [proxy, 1];
  while (Math.max(size.width, size.height) > smallest * 2) [size, count] = [halfSize(size), count + 1];
  return count;
}

/** What a picture is drawn with, once it can be. */
interface Materials {
  stages: StageInputs;
  lease: Lease;
  developed: string | null;
}

export function openPreview(frame: OpenFrame, listeners: PreviewListeners): Preview {
  let house: House;
  let opening = 0;
  let starts = 0;
  let ready = false;
  let closed = false;
  let begunAtAll = false;
  let neighbours: string[] = [];
  const levels = countLevels(frame.proxy);
  const scale = frame.proxy.width / frame.size.width;
  let full: ReturnType<typeof createFullPixels>;
  /** What is to be drawn when the picture in motion is there, or once the frame is open and all is at hand. */
  const next: Partial<Record<Target, Wanted>> = {};
  const last: Partial<Record<Target, Wanted>> = {};
  /** Pictures in motion are finished before the next begins. */
  const inMotion = new Set<Target>();
  /** What the picture at rest depends on before its light, and what it was drawn from. */
  let rested = '';
  let restedFrom: { source: SourceName; sharp: boolean } | null = null;
  const asked = new Map<number, { question: Question; resolve: (answer: never) => void }>();

  /** All that a picture is drawn with, or null while it is being made; what cannot be had is left out, and said. */
  function materialsFor(wanted: Wanted): Materials | null {
    const leaving = (name: string): { stages: StageInputs; asks: Ask[] } => {
      const stages = without(wanted.stages, (each) => house.resources.isMissing(each, name));
      return { stages, asks: asksOf(stages) };
    };
    const made = leaseFor(wanted.stages, leaving, wanted.draft);
    return made && { stages: made.more.stages, developed: made.developed, lease: made.lease };
  }

  /**
   * A lease of what a frame's source stages leave, if there are any, and of what is asked for besides; null while it is made. In
   * motion, what is much alike stands in for what is not there yet.
   */
  function leaseFor<More extends { asks: readonly Ask[] }>(
    stages: StageInputs | null,
    besides: (name: string) => More,
    inMotion = false
  ): { developed: string | null; lease: Lease; more: More } | null {
    const { resources } = house;
    const ask = stages && developedAsk(stages);
    const asCame = frameName(opening, null);
    const first = ask && resources.lease([ask], asCame);
    if (ask && !first) return waitFor([ask], asCame);
    const developed = first ? first.keys[0].key : null;
    const name = frameName(opening, developed);
    const more = besides(name);
    const second = resources.lease(more.asks, name, inMotion);
    if (!second) {
      first?.end();
      return waitFor(more.asks, name);
    }
    const end = (): void => {
      second.end();
      first?.end();
    };
    return { developed, lease: { ...second, end }, more };
  }

  function waitFor(asks: readonly Ask[], name: string): null {
    const { resources } = house;
    const begun = opening;
    resources.load(asks, name).then(
      () => {
        if (closed || begun !== opening) return;
        const fetched = asks.filter((ask) => resourceOf(ask).stored(ask.data) !== null);
        const gone = fetched.find((ask) => resources.isMissing(ask, name));
        if (fetched.length > 0) listeners.missing(gone ? resourceOf(gone).missing : '');
        if (ready) startNext();
        askAll();
      },
      (error: Error) => {
        if (!closed && begun === opening) listeners.failed(error.message);
      }
    );
    return null;
  }

  function begin(
    wanted: Wanted,
    materials: Materials,
    how: Pick<DrawingOrder, 'view' | 'draft' | 'source' | 'tiles'> & { sharp: boolean; key: string }
  ): void {
    const { target, about } = wanted;
    const { stages, lease } = materials;
    const { view, draft, source, sharp, key, tiles } = how;
    const ends = house.lent.lend('full' in source ? fullName(source.full) : levelsName(opening));
    const begun = opening;
    if (wanted.draft) inMotion.add(target);
    house.scheduler.begin({
      target,
      view,
      tiles,
      first: about ? nearestFirst(tiles, about) : tiles,
      stages,
      resources: lease.keys,
      source,
      draft,
      // An error of a twentieth of a screen pixel cannot be seen; in motion, a quarter cannot.
      meshError: Math.max(0.02, (draft ? 0.25 : 0.05) * view.pixel * halfDiagonal(stages.geometry.size)),
      keep: target === 'sheet' && !draft,
      count: wanted.count ?? null,
      ended() {
        ends();
        lease.end();
      },
      done({ pixels, counts, milliseconds }) {
        if (closed || begun !== opening) return;
        inMotion.delete(target);
        if (target === 'sheet' && draft)
          millisecondsPerPixel = followed(millisecondsPerPixel, milliseconds, view);
        if (target === 'sheet' && !draft) {
          if (key === rested) relitPerPixel = followed(relitPerPixel, milliseconds, view);
          rested = key;
          restedFrom = { source, sharp };
        }
        listeners.drawn({
          target,
          view: wanted.view,
          draft: wanted.draft,
          space: stages.encode!.space,
          sharp,
          width: view.width,
          height: view.height,
          pixels,
          histogram: wanted.count ? histogramOf(counts) : null,
          milliseconds
        });
        const following = next[target];
        delete next[target];
        if (following) start(following);
      }
    });
  }

  const keyFor = (view: View, stages: StageInputs, developed: string | null): string =>
    `${hashOf(view)} ${neighbourhoodKey(stages)} ${developed ?? ''}`;

  function start(wanted: Wanted): void {
    const { target, view } = wanted;
    last[target] = wanted;
    const materials = materialsFor(wanted);
    if (!materials) {
      next[target] = wanted;
      return;
    }
    const { stages, developed, lease } = materials;
    const key = keyFor(view, stages, developed);
    const reduction = (of: View): number => of.pixel * halfDiagonal(stages.geometry.size) * scale;
    /** The proxy's half that a view is drawn from. */
    const proxyFor = (of: View, draft: boolean): SourceName => ({
      level: Math.min(levels - 1, levelFor(reduction(of), draft)),
      developed
    });
    if (wanted.draft && target === 'sheet') {
      // While only light changes, the picture at rest is the faster one, and the better, as long as it keeps up.
      if (key === rested && restedFrom && keepsUp(view, relitPerPixel)) {
        const tiles = tilesOf(view, EDGE);
        return begin(wanted, materials, { ...restedFrom, view, draft: false, key, tiles });
      }
      const coarse = draftView(view, Math.max(millisecondsPerPixel, key === rested ? relitPerPixel : 0));
      const tiles = bandsOf(coarse, house.crew.count);
      const source = proxyFor(coarse, true);
      return begin(wanted, materials, { view: coarse, draft: true, source, sharp: true, key, tiles });
    }
    const tiles = tilesOf(view, EDGE);
    const fromProxy = (using: Materials, sharp: boolean): void => {
      const source = proxyFor(view, wanted.draft);
      begin(wanted, using, { view, draft: wanted.draft, source, sharp, key, tiles });
    };
    const finer = reduction(view) < 0.98 && scale < 0.999;
    if (wanted.draft || !finer) return fromProxy(materials, true);
    const rectangle = reachOf(stages, view);
    const sources = sourceInputs(stages);
    const number = full.held(target, rectangle, sources);
    if (number !== null) {
      begin(wanted, materials, { view, draft: false, source: { full: number }, sharp: true, key, tiles });
      return widenLater(wanted, rectangle, sources);
    }
    listeners.fetching(true);
    full.fetch(target, rectangle, sources);
    // A sharp picture is not followed by a soft one where sharp pixels are soon there.
    if (!restedFrom?.sharp || target !== 'sheet') return fromProxy(materials, false);
    lease.end();
    const begun = opening;
    setTimeout(() => {
      if (closed || begun !== opening || last[target] !== wanted || house.scheduler.isDrawing(target)) return;
      const later = materialsFor(wanted);
      if (later) fromProxy(later, false);
    }, SOON);
  }

  /** Once a picture rests, what lies about it is fetched for when it is moved. */
  function widenLater(wanted: Wanted, rectangle: SensorRectangle, sources: SourceInputs): void {
    const begun = opening;
    setTimeout(() => {
      if (!closed && begun === opening && last[wanted.target] === wanted)
        full.widen(wanted.target, rectangle, sources);
    }, WIDENED);
  }

  /** Draws what waited. */
  function startNext(): void {
    for (const target of ORDER) {
      const wanted = next[target];
      if (!wanted || inMotion.has(target)) continue;
      delete next[target];
      start(wanted);
    }
  }

  /** The first picture of a frame is one of motion, which is there in a third of the time; the one at rest follows it. */
  function startFirst(wanted: Wanted): void {
    begunAtAll = true;
    start({ ...wanted, draft: true, count: null });
    next[wanted.target] = wanted;
  }

  /** Asks what waits, as far as what it is answered by is there. */
  function askAll(): void {
    if (!ready) return;
    for (const [number, { question, resolve }] of asked) {
      const made = leaseFor(last.sheet?.stages ?? null, (name) => besides(question, name));
      if (!made) continue;
      asked.delete(number);
      inFlight.set(number, { question, resolve });
      const { developed, lease, more } = made;
      const task = {
        kind: 'ask',
        number,
        question: more.question,
        resources: lease.keys,
        developed
      } as const;
      house.crew.give(0, task, ({ answer }) => {
        lease.end();
        inFlight.delete(number);
        if (answer !== null) resolve(answer as never);
      });
    }
  }

  /** What a question is answered by, and the question without what cannot be had. */
  function besides(question: Question, name: string): { asks: readonly Ask[]; question: Question } {
    if (question.kind !== 'bake') {
      const light = askForLight(RENDITION, last.sheet ? laidOf(last.sheet.stages) : null);
      const masks = question.kind === 'covered' ? [maskAsk(question.mask)] : [];
      return { asks: LIT.includes(question.kind) ? [light, ...masks] : [], question };
    }
    const stages = without(question.stages, (ask) => house.resources.isMissing(ask, name));
    return { asks: asksOf(coloursAlone(stages)), question: { ...question, stages } };
  }

  /** Questions that a worker has in hand: asked again where it dies. */
  const inFlight = new Map<number, { question: Question; resolve: (answer: never) => void }>();

  function said(answer: WorkerAnswer): boolean {
    if (!('opening' in answer) || answer.opening !== opening) return false;
    if (answer.kind === 'opened') {
      for (let other = 1; other < house.crew.count; other++)
        house.crew.tell(other, { kind: 'opened elsewhere', frame, levels: answer.levels });
      ready = true;
      listeners.opened();
      for (const target of ORDER) next[target] ??= last[target];
      startNext();
      askAll();
      house.crew.tell(0, { kind: 'ahead', frames: neighbours });
    } else if (answer.kind === 'failed') {
      listeners.failed(answer.message);
      if (answer.again) setTimeout(() => !closed && !ready && openFrame(), AGAIN);
    } else if (answer.kind === 'full') takeFull(answer);
    return true;
  }

  /** Full-size pixels have come: the picture that asked for them is drawn again, if it is still wanted. */
  function takeFull(answer: Extract<WorkerAnswer, { kind: 'full' }>): void {
    const target = full.take(answer);
    listeners.missing(answer.message);
    if (!target) return;
    listeners.fetching(false);
    const wanted = last[target];
    if (!answer.held || !wanted || wanted.draft || next[target]) return;
    const materials = materialsFor(wanted);
    if (!materials) {
      next[target] = wanted;
      return;
    }
    const { view } = wanted;
    const { stages, developed, lease } = materials;
    const [rectangle, sources] = [reachOf(stages, view), sourceInputs(stages)];
    const number = full.held(target, rectangle, sources);
    if (number === null) return lease.end();
    const how = { view, draft: false, source: { full: number }, sharp: true };
    begin(wanted, materials, { ...how, key: keyFor(view, stages, developed), tiles: tilesOf(view, EDGE) });
    widenLater(wanted, rectangle, sources);
  }

  function openFrame(): void {
    opening = ++openings;
    full = createFullPixels(house.crew, house.lent, { size: frame.size, opening: () => opening });
    house.crew.tell(0, { kind: 'open', opening, ...frame });
  }

  function begun(): boolean {
    try {
      clearTimeout(spareEnds);
      house = spare ?? startHouse();
    } catch (error) {
      listeners.failed((error as Error).message);
      return false;
    }
    spare = null;
    house.tenant = { said, died: again };
    rested = '';
    restedFrom = null;
    openFrame();
    return true;
  }

  /** The picture comes again by itself. */
  function again(): void {
    ready = false;
    inMotion.clear();
    for (const target of ORDER) delete next[target];
    for (const [number, question] of inFlight) asked.set(number, question);
    inFlight.clear();
    if (++starts < MOST_STARTS) begun();
    else listeners.failed('The preview stopped several times. Reload the page to go on; nothing is lost.');
  }

  const running = begun();

  return {
    draw(wanted) {
      if (!ready || (inMotion.has(wanted.target) && wanted.draft)) next[wanted.target] = wanted;
      else {
        delete next[wanted.target];
        inMotion.delete(wanted.target);
        if (wanted.target === 'sheet' && !wanted.draft && !begunAtAll) startFirst(wanted);
        else start(wanted);
      }
    },
    ask: (question) =>
      new Promise((resolve) => {
        asked.set(++questions, { question, resolve: resolve as (answer: never) => void });
        askAll();
      }),
    ahead(frames) {
      neighbours = frames;
      if (ready) house.crew.tell(0, { kind: 'ahead', frames });
    },
    close() {
      closed = true;
      if (!running) return;
      house.tenant = null;
      house.scheduler.leaveAll();
      full.leaveAll();
      house.resources.forget();
      house.lent.leave(levelsName(opening));
      spare = house;
      spareEnds = setTimeout(() => {
        spare?.crew.end();
        spare = null;
      }, KEPT);
    }
  };
}
