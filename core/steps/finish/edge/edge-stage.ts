/**
 * The picture's edge darkened or lightened, and its colours weaker or stronger, in the coordinates of its crop: its light by a
 * power of two that sets in softly about the middle, along a superellipse (Lamé) between an ellipse and the crop's own shape.
 */
import { smoothstep } from '../../../math/smoothstep.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { addresses } from '../../../picture/tile/planes.ts';
import type { PixelStage } from '../../../picture/tile/stage.ts';
import type { Rectangle } from '../../crop/rectangle.ts';
import type { FinishSettings } from '../step.ts';

interface Given {
  recipe: { finish: FinishSettings };
  plan: { crop: Rectangle };
}

export interface EdgeData {
  crop: Rectangle;
  /** Stops at the edge and in the middle. */
  stops: number;
  inner: number;
  /** Shares of the half crop by which the middle lies off its own. */
  middle: readonly [number, number];
  /** Power of the superellipse: 2 is an ellipse. */
  power: number;
  /** Radii, in those of the superellipse that the crop holds, at which it begins and is complete. */
  from: number;
  to: number;
  /** Share of white's change that it is spared. */
  spare: number;
  /** Strength of colours at the edge; in the middle it is 1. */
  strength: number;
}

const MOST_STOPS = 2;
const MOST_INNER = 1;
/** Power at no roundness: nearly a rectangle. */
const SQUARE = 16;
/** Least width of the rise, in shares of the whole: what is harder shows the steps of pixels. */
const LEAST_RISE = 0.004;
/** Pixels from one gain to the next; the kernel knows it. */
const EVERY = 8;

export const edgeStage: PixelStage<'edge', Given, EdgeData> = {
  name: 'edge',
  kind: 'pixel',
  prepare({ recipe: { finish }, plan: { crop } }) {
    const { enabled, edge, inner, edgeReach, edgeRound, edgeFeather, edgeX, edgeY, edgeSpare, edgeColour } =
      finish;
    if (!enabled || (edge === 0 && inner === 0 && edgeColour === 0)) return null;
    const power = 2 * (SQUARE / 2) ** (1 - edgeRound / 100);
    const corner = 2 ** (1 / power);
    const from = corner * (1 - edgeReach / 100);
    return {
      crop,
      stops: (MOST_STOPS * edge) / 100,
      inner: (MOST_INNER * inner) / 100,
      middle: [edgeX / 100, edgeY / 100],
      power,
      from,
      to: from + Math.max(LEAST_RISE, ((corner - from) * edgeFeather) / 100),
      spare: edgeSpare / 100,
      strength: 1 + edgeColour / 100
    };
  },
  begin({ view }, { crop, stops, inner, middle, power, from, to, spare, strength }, arena) {
    const { shadeRow } = kernels();
    // One further than the last, which the row runs towards.
    const gains = arena.float32(Math.ceil(view.width / EVERY) + 2);
    const strengths = strength === 1 ? null : arena.float32(gains.length);
    const away = (place: number, from: number): number => Math.abs(place - from) ** power;
    const across = (x: number): number =>
      away((view.left + (x + 0.5) * view.pixel - crop.x) / (crop.width / 2), middle[0]);
    const down = (y: number): number =>
      away((view.top + (y + 0.5) * view.pixel - crop.y) / (crop.height / 2), middle[1]);
    // Powers take most of the time: exponentials are quicker, those across are the same in each row, and none is needed beyond
    // both ends of the rise.
    const gainOf = (share: number): number => Math.exp(Math.LN2 * (stops * share + inner * (1 - share)));
    const [begins, ends] = [from ** power, to ** power];
    const [within, beyond] = [gainOf(0), gainOf(1)];
    const columns = new Float64Array(gains.length);
    let left: number | null = null;
    return (rows) => {
      const planes = addresses(rows);
      if (rows.left !== left) {
        left = rows.left;
        for (let i = 0; i < columns.length; i++) columns[i] = across(left + i * EVERY);
      }
      for (let row = 0; row < rows.height; row++) {
        const y = down(rows.top + row);
        for (let i = 0; i < gains.length; i++) {
          const sum = columns[i] + y;
          let share = sum >= ends ? 1 : 0;
          if (sum <= begins) gains[i] = within;
          else if (sum >= ends) gains[i] = beyond;
          else {
            share = smoothstep(from, to, Math.exp(Math.log(sum) / power));
            gains[i] = gainOf(share);
          }
          if (strengths) strengths[i] = 1 + (strength - 1) * share;
        }
        const at = row * rows.width * 4;
        const [r, g, b] = planes.map((plane) => plane + at);
        shadeRow(r, g, b, rows.width, addressOf(gains), spare, strengths ? addressOf(strengths) : 0);
      }
    };
  }
};
