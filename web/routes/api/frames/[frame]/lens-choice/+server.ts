import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { keepForLens } from '$server/lenses/apply-lens.ts';
import { choiceFor } from '$server/lenses/lens-choice.ts';
import { validator } from '$server/documents/validator.ts';
import type { RequestHandler } from './$types';

const validKept = validator<{ profile: string | null }>(
  {
    $id: 'kept-choice',
    type: 'object',
    additionalProperties: false,
    required: ['profile'],
    properties: { profile: { type: ['string', 'null'], pattern: '^[a-z0-9-]{1,80}$' } }
  },
  'choice'
);

/** Candidates for the frame's lens; `named` is a profile that must be among them. */
export const GET: RequestHandler = ({ params, url }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (!frame?.facts) return notFound('frame');
    return json(await choiceFor(context, frame.facts, url.searchParams.get('named') ?? 'auto'));
  });

/** Remembers { profile } for the frame's body and lens text, for all frames that say the same; null forgets. */
export const PUT: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const { profile } = validKept(await readJson(request));
    return json({ frames: await keepForLens(await getContext(), params.frame, profile) });
  });
