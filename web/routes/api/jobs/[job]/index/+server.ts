import { answer, isId, notFound } from '$lib/answer.ts';
import { changedIds, eventStream } from '$lib/event-stream.ts';
import { getContext } from '$server/app.ts';
import { indexRows } from '$server/frames/index-row.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { RequestHandler } from './$types';

/** { rows, all }: what the index shows of the job's frames that have changed, or of all of them. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const { job: id } = params;
    if (!isId(id) || !(await jobById(context, id))) return notFound('job');
    return eventStream(context, {
      concerns: ({ job }) => job === id,
      async read(notices) {
        const changed = changedIds(notices, 'frame');
        return { rows: await indexRows(context, id, changed), all: changed === null };
      }
    });
  });
