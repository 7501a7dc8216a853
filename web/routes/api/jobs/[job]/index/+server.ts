import { jobStream } from '$lib/job-stream.ts';
import { indexRows } from '$server/set/index-row.ts';
import type { RequestHandler } from './$types';

/** { rows, all }: what the index shows of the job's frames that have changed, or of all of them. */
export const GET: RequestHandler = ({ params }) =>
  jobStream(params.job, async (...about) => ({ rows: await indexRows(...about) }));
