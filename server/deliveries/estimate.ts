/** How long a delivery will take and how large it will be, from what earlier ones took on this machine. */
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { Deliverable } from '../../core/picture/output/deliverable-schema.ts';
import { outputSize } from '../../core/picture/output/output-size.ts';
import type { Context } from '../context.ts';

/** Bytes for one pixel at about quality 90, by format; 16 bits double it. */
const BYTES: Record<Deliverable['format'], number> = {
  jpeg: 0.42,
  webp: 0.25,
  avif: 0.22,
  png: 1.7,
  tiff: 2.2
};
/** Seconds for each megapixel of a frame that is opened, and of a picture that is made: figures of two usual cores. */
const OPENED = 0.28;
const MADE = 0.22;
const EACH_PICTURE = 0.2;
/** A picture with a largest file is encoded several times. */
const LIMITED = 1.6;

interface Work {
  frameId: string;
  frame: FrameSize;
  picture: FrameSize;
  limited: boolean;
}

const megapixels = ({ width, height }: FrameSize): number => (width * height) / 1e6;

/** Seconds of a usual machine. */
function usualSeconds(work: readonly Work[]): number {
  const frames = new Map(work.map(({ frameId, frame }) => [frameId, frame]));
  const opening = [...frames.values()].reduce((sum, frame) => sum + OPENED * megapixels(frame), 0);
  return work.reduce(
    (sum, { picture, limited }) => sum + MADE * megapixels(picture) * (limited ? LIMITED : 1) + EACH_PICTURE,
    opening
  );
}

/** Length of what intervals cover together: pauses between them do not count. */
export function covered(intervals: readonly (readonly [number, number])[]): number {
  let [total, until] = [0, -Infinity];
  for (const [from, to] of [...intervals].sort((a, b) => a[0] - b[0])) {
    total += Math.max(0, to - Math.max(from, until));
    until = Math.max(until, to);
  }
  return total;
}

/** Deliveries looked back at, and pictures that one must have made to tell anything. */
const LOOKED_AT = 5;
const TELLING = 3;

/** How many times longer than on a usual machine the latest deliveries took on this one; 1 as long as none did. */
async function paceOf(context: Context): Promise<number> {
  const { rows } = await context.db.query<{
    delivery: string;
    frame: string;
    size: FrameSize;
    width: number;
    height: number;
    limited: boolean;
    began: number;
    ended: number;
  }>(
    `select i.delivery_id as delivery, i.frame_id as frame, f.facts->'size' as size, i.width, i.height,
       i.deliverable->>'limit' is not null as limited,
       extract(epoch from i.started_at)::float8 as began, extract(epoch from i.finished_at)::float8 as ended
     from delivery_items i join frames f on f.id = i.frame_id
     where i.state = 'done' and i.machine = $1 and i.delivery_id in (
       select delivery_id from delivery_items where state = 'done' and machine = $1
       group by delivery_id having count(*) >= $2 order by max(finished_at) desc limit $3)`,
    [context.machine, TELLING, LOOKED_AT]
  );
  const deliveries = new Map<string, typeof rows>();
  for (const row of rows) {
    const pictures = deliveries.get(row.delivery) ?? [];
    deliveries.set(row.delivery, pictures);
    pictures.push(row);
  }
  const paces = [...deliveries.values()].map((pictures) => {
    const took = covered(pictures.map(({ began, ended }) => [began, ended] as const));
    const work = pictures.map(({ frame, size, width, height, limited }) => ({
      frameId: frame,
      frame: size,
      picture: { width, height },
      limited
    }));
    return took / usualSeconds(work);
  });
  return paces.sort((a, b) => a - b)[paces.length >> 1] ?? 1;
}

export interface Estimate {
  bytes: number;
  seconds: number;
}

/** Estimate for pictures of frames with their sizes; a crop is taken to leave nine tenths of each side. */
export async function estimateDelivery(
  context: Context,
  pictures: readonly { frameId: string; frame: FrameSize; deliverable: Deliverable }[]
): Promise<Estimate> {
  let bytes = 0;
  const work = pictures.map(({ frameId, frame, deliverable }): Work => {
    const full = { width: Math.round(frame.width * 0.9), height: Math.round(frame.height * 0.9) };
    const picture = outputSize(full, deliverable);
    const { limit, format, depth } = deliverable;
    const plain = megapixels(picture) * 1e6 * BYTES[format] * (depth === 16 ? 2 : 1);
    bytes += limit === null ? plain : Math.min(plain, limit * 1000);
    return { frameId, frame, picture, limited: limit !== null };
  });
  return { bytes: Math.round(bytes), seconds: Math.round(usualSeconds(work) * (await paceOf(context))) };
}
