import { answer } from '$lib/answer.ts';
import { eventStream } from '$lib/event-stream.ts';
import { getContext } from '$server/app.ts';
import { listJobs } from '$server/jobs/jobs.ts';
import { demoProgress } from '$server/start/demo-progress.ts';
import type { RequestHandler } from './$types';

/** All jobs, as their frames come in and become ready. */
export const GET: RequestHandler = () =>
  answer(async () => {
    const context = await getContext();
    return eventStream(context, {
      concerns: ({ job }) => job !== undefined,
      read: async () => ({ jobs: await listJobs(context), demo: demoProgress(context.data) })
    });
  });
