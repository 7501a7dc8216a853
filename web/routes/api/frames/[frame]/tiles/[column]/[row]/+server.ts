import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { readTile } from '$server/frames/full-tiles.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    const tile = frame && (await readTile(context, frame, Number(params.column), Number(params.row)));
    return tile ? fixedBytes(tile, 'application/octet-stream') : notFound('part of the frame');
  });
