import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { validIds } from '$lib/frame-ids.ts';
import { idsSchema } from '$server/database/uuid.ts';
import { getContext } from '$server/app.ts';
import { MOST_BYTES } from '$server/decode/decode-file.ts';
import { UserError } from '$server/user-error.ts';
import { addFrame } from '$server/frames/add-frame.ts';
import { CHOICES, type FrameChange, changeFrames } from '$server/frames/frame-row.ts';
import { removeFrames } from '$server/jobs/remove-job.ts';
import { layHouseRules, ofNaming } from '$server/set/house-by-rules.ts';
import { validator } from '$server/documents/validator.ts';
import { readJson } from '$lib/read-json.ts';
import type { RequestHandler } from './$types';

/** Takes one file as the plain body, its name in the query, with `more` where others follow at once. */
export const POST: RequestHandler = ({ params, request, url }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const length = Number(request.headers.get('content-length') ?? NaN);
    const bytes = Number.isFinite(length) ? length : null;
    if (bytes !== null && bytes > MOST_BYTES) {
      throw new UserError(
        `This file is ${Math.round(bytes / 1048576)} MB; the largest that can be opened is 512 MB.`
      );
    }
    if (!request.body) throw new UserError('This file is empty. Copy it from the card again.');
    const body = request.body as unknown as AsyncIterable<Uint8Array>;
    const name = url.searchParams.get('name') ?? '';
    const more = url.searchParams.has('more');
    const added = await addFrame(await getContext(), params.job, name, body, { bytes, more });
    return json(added, { status: added.known ? 200 : 201 });
  });

const validChange = validator<FrameChange & { ids: string[] }>(
  {
    $id: 'frames-change',
    type: 'object',
    additionalProperties: false,
    required: ['ids'],
    minProperties: 2,
    properties: { ids: idsSchema, room: { type: 'string', maxLength: 60 }, choice: { enum: CHOICES } }
  },
  'frames'
);
/** Says of several frames at once what they show, or what they are in the job. */
export const PATCH: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const { ids, ...change } = validChange(await readJson(request));
    const context = await getContext();
    await changeFrames(context, params.job, ids, change);
    // Rules that go by the room wait until it is named.
    const { changed } = change.room
      ? await layHouseRules(context, params.job, ids, ofNaming)
      : { changed: [] };
    return json({ changed });
  });

/** Takes several frames out of the job. Answers the bytes that it gave back. */
export const DELETE: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const { ids } = validIds(await readJson(request));
    return json({ bytes: await removeFrames(await getContext(), params.job, ids) });
  });
