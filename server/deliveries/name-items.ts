/** What each picture of a delivery is called, and what is written into it. */
import type { Deliverable } from '../../core/picture/output/deliverable-schema.ts';
import { AS_CROPPED } from '../../core/picture/output/deliverable-schema.ts';
import { type TokenValues, fileName, fillTokens, nameKey } from '../../core/picture/output/file-name.ts';
import { UserError } from '../user-error.ts';
import type { Rights } from '../render/xmp.ts';

export interface NamedFrame {
  id: string;
  name: string;
  room: string;
  taken: string | null;
  /** The ratio that the frame has in hand. */
  ratio: string;
}

export interface NamedItem<F extends NamedFrame> {
  frame: F;
  deliverable: Deliverable;
  file: string;
  rights: Rights;
}

const ENDINGS = { jpeg: 'jpg', tiff: 'tif', png: 'png', webp: 'webp', avif: 'avif' };

export interface NamedJob {
  name: string;
  client: string;
  site: string;
}

function tokensOf(job: NamedJob, frame: NamedFrame, deliverable: Deliverable, counter: number): TokenValues {
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
    counter: String(counter).padStart(3, '0')
  };
}

/** Names every picture; the same name twice is refused with what to add to the pattern. */
export function nameItems<F extends NamedFrame>(
  job: NamedJob,
  picks: readonly { frame: F; deliverable: Deliverable }[]
): NamedItem<F>[] {
  const taken = new Map<string, NamedItem<F>>();
  const counters = new Map<Deliverable, number>();
  return picks.map(({ frame, deliverable }) => {
    const counter = (counters.get(deliverable) ?? 0) + 1;
    counters.set(deliverable, counter);
    const values = tokensOf(job, frame, deliverable, counter);
    const file = `${fileName(deliverable.pattern, values)}.${ENDINGS[deliverable.format]}`;
    const fill = (text: string): string => fillTokens(text, values);
    const rights: Rights = {
      title: fill(deliverable.title),
      caption: fill(deliverable.caption),
      creator: deliverable.creator,
      copyright: deliverable.copyright,
      keywords: deliverable.keywords
        .split(',')
        .map((word) => word.trim())
        .filter(Boolean)
    };
    const item = { frame, deliverable, file, rights };
    const other = taken.get(nameKey(file));
    if (other) {
      throw new UserError(
        `"${other.deliverable.name}" of ${other.frame.name} and "${deliverable.name}" of ${frame.name} would both be ` +
          `named ${file}. Add {frame}, {deliverable} or {counter} to the file name.`
      );
    }
    taken.set(nameKey(file), item);
    return item;
  });
}
