/** Answers that tell a page of a job's frames: of those that have changed, or of all of them. */
import { getContext } from '$server/app.ts';
import type { Context } from '$server/context.ts';
import { jobById } from '$server/jobs/jobs.ts';
import { answer, isId, notFound } from './answer.ts';
import { changedIds, eventStream } from './event-stream.ts';

/** `read` makes what is told; null stands for all frames. */
export const jobStream = (
  id: string,
  read: (context: Context, job: string, ids: readonly string[] | null) => Promise<object>
): Promise<Response> =>
  answer(async () => {
    const context = await getContext();
    if (!isId(id) || !(await jobById(context, id))) return notFound('job');
    return eventStream(context, {
      concerns: ({ job }) => job === id,
      async read(notices) {
        const changed = changedIds(notices, 'frame');
        return { ...(await read(context, id, changed)), all: changed === null };
      }
    });
  });
