import { jobStream } from '$lib/job-stream.ts';
import { frameCards } from '$server/set/frame-card.ts';
import type { RequestHandler } from './$types';

/** { cards, all }: frames of the job that have changed, as the job view shows them, or all of them. */
export const GET: RequestHandler = ({ params }) =>
  jobStream(params.job, async (...about) => ({ cards: await frameCards(...about) }));
