import { Readable } from 'node:stream';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { jobArchive } from '$server/archive/write-archive.ts';
import type { RequestHandler } from './$types';

/** The whole job as one file, made as it is read. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const { name, stream } = await jobArchive(await getContext(), params.job);
    return new Response(Readable.toWeb(stream) as ReadableStream, {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`
      }
    });
  });
