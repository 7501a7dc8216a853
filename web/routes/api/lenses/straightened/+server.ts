import { json } from '@sveltejs/kit';
import { answer, isId } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { validator } from '$server/documents/validator.ts';
import { type StraightenRequest, straightenLens, straightenSchema } from '$server/lenses/straighten-lens.ts';
import type { RequestHandler } from './$types';

const validStraighten = validator<StraightenRequest>(straightenSchema, 'request');

/** Makes a profile from the edges of frames that were taken with one lens. */
export const POST: RequestHandler = ({ request }) =>
  answer(async () => {
    const asked = validStraighten(await readJson(request));
    return json(await straightenLens(await getContext(), { ...asked, frames: asked.frames.filter(isId) }));
  });
