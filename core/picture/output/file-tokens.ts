/** What file names of pictures are made from: the job, the frame, and what is made of it. */
import { AS_CROPPED, type Deliverable } from './deliverable-schema.ts';
import type { TokenValues } from './file-name.ts';

/** Endings of files, by their formats. */
export const ENDINGS = { jpeg: 'jpg', tiff: 'tif', png: 'png', webp: 'webp', avif: 'avif' };

export interface NamedFrame {
  id: string;
  name: string;
  room: string;
  taken: string | null;
  /** The ratio that the frame has in hand. */
  ratio: string;
  /** The revision that is delivered of it; none: the frame as it stands. */
  revision?: { letter: string; name: string } | null;
}

export interface NamedJob {
  name: string;
  client: string;
  site: string;
}

/** What stands for each token in the name of one picture; `counter` counts those of its deliverable. */
export function tokensOf(
  job: NamedJob,
  frame: NamedFrame,
  deliverable: Deliverable,
  counter: number
): TokenValues {
  const stem = frame.name.replace(/\.[^.]+$/, '');
  const ratio = deliverable.ratio === AS_CROPPED ? frame.ratio : deliverable.ratio;
  return {
    job: job.name,
    address: job.site,
    client: job.client,
    frame: stem,
    number: /(\d+)\D*$/.exec(stem)?.[1] ?? stem,
    room: frame.room,
    // A colon is no part of a file name; as practitioners write it there.
    ratio: ratio.replace(':', 'x'),
    date: frame.taken?.slice(0, 10).replaceAll(':', '-') ?? 'undated',
    deliverable: deliverable.name,
    counter: String(counter).padStart(3, '0'),
    revision: frame.revision?.letter ?? '',
    'revision-name': frame.revision?.name || (frame.revision?.letter ?? '')
  };
}
