import { answer, isId, notFound, taggedBytes, wholeNumber } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { fullTile } from '$server/frames/full-tiles.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, request }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    const [column, row] = [wholeNumber(params.column), wholeNumber(params.row)];
    const tile =
      frame && column !== null && row !== null ? await fullTile(context, frame, column, row) : null;
    return tile ? taggedBytes(request, tile.tag, tile.read) : notFound('part of the frame');
  });
