import { answer, isId, notFound } from '$lib/answer.ts';
import { changedIds, eventStream } from '$lib/event-stream.ts';
import { getContext } from '$server/app.ts';
import { frameCards } from '$server/frames/frame-card.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { RequestHandler } from './$types';

/** { cards, all }: frames of the job that have changed, as the job view shows them, or all of them. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const { job: id } = params;
    if (!isId(id) || !(await jobById(context, id))) return notFound('job');
    return eventStream(context, {
      concerns: ({ job }) => job === id,
      async read(notices) {
        const changed = changedIds(notices, 'frame');
        return { cards: await frameCards(context, id, changed), all: changed === null };
      }
    });
  });
