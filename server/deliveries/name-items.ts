/** What each picture of a delivery is called, and what is written into it. */
import type { Deliverable } from '../../core/picture/output/deliverable-schema.ts';
import { fileName, fillTokens, nameKey, namesRevision } from '../../core/picture/output/file-name.ts';
import { ENDINGS, type NamedFrame, type NamedJob, tokensOf } from '../../core/picture/output/file-tokens.ts';
import { UserError } from '../user-error.ts';
import type { Rights } from '../render/xmp.ts';

export interface NamedItem<F extends NamedFrame> {
  frame: F;
  deliverable: Deliverable;
  file: string;
  rights: Rights;
}

/**
 * Names every picture; the same name twice is refused with what to add to the pattern. Several revisions of one frame are told apart
 * by their letters where the pattern does not name them.
 */
export function nameItems<F extends NamedFrame>(
  job: NamedJob,
  picks: readonly { frame: F; deliverable: Deliverable }[]
): NamedItem<F>[] {
  const taken = new Map<string, NamedItem<F>>();
  const revisions = new Map<string, Set<string>>();
  for (const { frame } of picks)
    revisions.set(frame.id, (revisions.get(frame.id) ?? new Set()).add(frame.revision?.letter ?? ''));
  const patternOf = (frame: F, { pattern }: Deliverable): string =>
    revisions.get(frame.id)!.size > 1 && !namesRevision(pattern) ? `${pattern}_{revision}` : pattern;
  const counters = new Map<Deliverable, number>();
  return picks.map(({ frame, deliverable }) => {
    const counter = (counters.get(deliverable) ?? 0) + 1;
    counters.set(deliverable, counter);
    const values = tokensOf(job, frame, deliverable, counter);
    const file = `${fileName(patternOf(frame, deliverable), values)}.${ENDINGS[deliverable.format]}`;
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
