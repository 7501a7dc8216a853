import { answer, isId, notFound } from '$lib/answer.ts';
import { changedIds, eventStream } from '$lib/event-stream.ts';
import { getContext } from '$server/app.ts';
import { deliveryById, itemsOf } from '$server/deliveries/deliveries.ts';
import type { RequestHandler } from './$types';

/** { delivery, items, all }: the delivery, and those of its pictures that have changed, or all of them. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const { delivery: id } = params;
    if (!isId(id) || !(await deliveryById(context, id))) return notFound('delivery');
    return eventStream(context, {
      concerns: ({ delivery }) => delivery === id,
      async read(notices) {
        const changed = changedIds(notices, 'item');
        const items = await itemsOf(context, id, changed);
        return { delivery: await deliveryById(context, id), items, all: changed === null };
      }
    });
  });
