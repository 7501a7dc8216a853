/** Jobs in the order that is asked for, those that a text finds. */
import type { JobSummary } from '$server/jobs/jobs.ts';

export const JOB_ORDERS = ['newest', 'by name', 'by client', 'by due day'] as const;
export type JobOrder = (typeof JOB_ORDERS)[number];

const compare = new Intl.Collator('en', { numeric: true, sensitivity: 'base' }).compare;
const BY: Record<JobOrder, (a: JobSummary, b: JobSummary) => number> = {
  newest: (a, b) => compare(b.made, a.made),
  'by name': (a, b) => compare(a.name, b.name),
  'by client': (a, b) => compare(a.client, b.client) || compare(a.name, b.name),
  // What has no day is not urgent.
  'by due day': (a, b) => compare(a.due ?? '9999', b.due ?? '9999') || compare(a.name, b.name)
};

/** Jobs at hand, or those put away: every word of the text stands in name, client or site. */
export function jobsShown(
  jobs: readonly JobSummary[],
  { text, order, away }: { text: string; order: JobOrder; away: boolean }
): JobSummary[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return jobs
    .filter(({ put_away }) => put_away === away)
    .filter(({ name, client, site }) => {
      const all = `${name} ${client} ${site}`.toLowerCase();
      return words.every((word) => all.includes(word));
    })
    .sort(BY[order]);
}

/** A name for a job of dropped files: their folder's, or that of the first file without its number. */
export function nameFor(files: readonly { name: string; webkitRelativePath?: string }[]): string {
  const [first] = files;
  const folder = first.webkitRelativePath?.split('/')[0];
  if (folder) return folder;
  return first.name.replace(/\.[^.]*$/, '').replace(/[\s_-]*\d+$/, '') || 'New job';
}
