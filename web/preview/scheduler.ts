/**
 * Draws pictures tile by tile: hands the tiles to workers that are free, those of the most urgent picture first, and puts them
 * together. A newer picture of the same target takes the place of an older one at once.
 */
import type { View } from '$core/picture/tile/mesh.ts';
import type { StageInputs } from '$core/render/stages.ts';
import type { Rectangle } from '$core/steps/crop/rectangle.ts';
import type { Crew } from './crew.ts';
import { COUNTS } from './histogram.ts';
import type { ResourceKey, SourceName, Target, TileTask } from './messages.ts';
import { type ViewTile, putTile } from './view-tiles.ts';

export interface DrawingOrder {
  target: Target;
  /** What is drawn. */
  view: View;
  tiles: readonly ViewTile[];
  /** The same in the order that they are to be drawn in (default: as they are). */
  first?: readonly ViewTile[];
  stages: StageInputs;
  resources: readonly ResourceKey[];
  source: SourceName;
  draft: boolean;
  meshError: number;
  keep: boolean;
  /** Part of the upright plane that is counted. */
  count: Rectangle | null;
  /** All tiles are there, and it is still the newest of its target. */
  done(drawn: { pixels: Uint8ClampedArray<ArrayBuffer>; counts: Uint32Array; milliseconds: number }): void;
  /** No worker reads anything of it any more, whether it was finished or not. */
  ended(): void;
}

export interface Scheduler {
  begin(order: DrawingOrder): void;
  /** Whether a target has a picture in the making. */
  isDrawing(target: Target): boolean;
  /** Leaves what is in the making. */
  leaveAll(): void;
  /** A worker may be free again. */
  work(): void;
}

interface Drawing {
  order: DrawingOrder;
  number: number;
  waiting: ViewTile[];
  left: number;
  inHand: number;
  told: Set<number>;
  over: boolean;
  pixels: Uint8ClampedArray<ArrayBuffer>;
  counts: Uint32Array;
  started: number;
}

/** Which drawing goes first, of those that wait. */
export const ORDER: readonly Target[] = [
  'magnifier',
  'sheet',
  'other',
  'mask',
  'crop',
  'small',
  'overview',
  'cover',
  'covered',
  'state'
];

/** Drawings are numbered through, whoever draws: answers to those of an earlier frame are told apart. */
let numbers = 0;

export function createScheduler(crew: Crew): Scheduler {
  const current: Partial<Record<Target, Drawing>> = {};

  /** Nobody waits for it any more; what workers have in hand of it is still to come. */
  function leave(drawing: Drawing): void {
    drawing.over = true;
    drawing.waiting = [];
    if (current[drawing.order.target] === drawing) delete current[drawing.order.target];
    if (drawing.inHand > 0) return;
    for (const worker of drawing.told) crew.tell(worker, { kind: 'done', drawing: drawing.number });
    drawing.order.ended();
  }

  function take(
    drawing: Drawing,
    tile: ViewTile,
    pixels: ArrayBuffer | null,
    counts: Uint32Array | null
  ): void {
    drawing.inHand--;
    if (!drawing.over && pixels) {
      putTile(drawing.pixels, drawing.order.view.width, tile, new Uint8ClampedArray(pixels));
      counts?.forEach((count, i) => (drawing.counts[i] += count));
      drawing.left--;
    }
    if (drawing.over || !pixels) leave(drawing);
    else if (drawing.left === 0) {
      leave(drawing);
      const milliseconds = performance.now() - drawing.started;
      drawing.order.done({ pixels: drawing.pixels, counts: drawing.counts, milliseconds });
    }
  }

  function give(worker: number, drawing: Drawing, tile: ViewTile): void {
    const { number, told, order } = drawing;
    const { stages, resources, source, draft, meshError, keep, count } = order;
    if (!told.has(worker)) {
      told.add(worker);
      crew.tell(worker, { kind: 'inputs', number, stages, resources });
    }
    drawing.inHand++;
    const given = { source, draft, meshError, keep, count };
    const task: TileTask = { kind: 'tile', drawing: number, index: tile.index, view: tile.view, ...given };
    crew.give(worker, task, ({ pixels, counts }) => take(drawing, tile, pixels, counts));
  }

  /** Gives every free worker a tile: of those it drew before, else any that waits. */
  function work(): void {
    for (let worker = 0; worker < crew.count; worker++) {
      if (!crew.isFree(worker)) continue;
      for (const target of ORDER) {
        const drawing = current[target];
        if (!drawing || drawing.waiting.length === 0) continue;
        const mine = drawing.waiting.findIndex(({ index }) => index % crew.count === worker);
        const [tile] = drawing.waiting.splice(Math.max(0, mine), 1);
        give(worker, drawing, tile);
        break;
      }
    }
  }

  return {
    begin(order) {
      const before = current[order.target];
      if (before) leave(before);
      const { width, height } = order.view;
      current[order.target] = {
        order,
        number: ++numbers,
        waiting: [...(order.first ?? order.tiles)],
        left: order.tiles.length,
        inHand: 0,
        told: new Set(),
        over: false,
        pixels: new Uint8ClampedArray(width * height * 4),
        counts: new Uint32Array(COUNTS),
        started: performance.now()
      };
      work();
    },
    isDrawing: (target) => current[target] !== undefined,
    leaveAll() {
      for (const drawing of Object.values(current)) leave(drawing);
    },
    work
  };
}
