import { answer, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { profileById } from '$server/lenses/catalogue.ts';
import type { RequestHandler } from './$types';

/** The profile as a JSON file. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const found = await profileById(await getContext(), params.lens);
    if (!found) return notFound('profile');
    return new Response(JSON.stringify(found.profile, null, 2) + '\n', {
      headers: {
        'content-type': 'application/json',
        'content-disposition': `attachment; filename="${found.profile.id}.json"`
      }
    });
  });
