import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { CHOICES, type FrameChange, changeFrames, frameById } from '$server/frames/frame-row.ts';
import { removeFrames } from '$server/jobs/remove-job.ts';
import { validator } from '$server/documents/validator.ts';
import type { RequestHandler } from './$types';

const validChange = validator<FrameChange>(
  {
    $id: 'frame-change',
    type: 'object',
    additionalProperties: false,
    minProperties: 1,
    properties: { room: { type: 'string', maxLength: 60 }, choice: { enum: CHOICES } }
  },
  'frame'
);

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (!frame) return notFound('frame');
    return json({ frame });
  });

/** Takes the frame out of its job; an original that stands nowhere else goes with it. */
export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (frame) await removeFrames(context, frame.job_id, [frame.id]);
    return json({});
  });

/** Says what the frame shows, or what it is in its job. */
export const PATCH: RequestHandler = ({ params, request }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (!frame) return notFound('frame');
    await changeFrames(context, frame.job_id, [frame.id], validChange(await readJson(request)));
    return json({});
  });
