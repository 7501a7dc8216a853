import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { type FrameMeasures, keptFound } from '$server/frames/found-evidence.ts';
import { keptEdges } from '$server/frames/frame-edges.ts';
import type { RequestHandler } from './$types';

/** Strong edges with the offsets of red and blue, and the lines found, as measured when the frame was added. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (!frame) return notFound('frame');
    const reason = frame.measured
      ? 'The edges could not be measured.'
      : 'The edges are still being measured.';
    const edges = (await keptEdges(context, frame.sha256)) ?? { edges: [], lateral: null, reason };
    const measures: FrameMeasures = { ...edges, found: await keptFound(context, frame.sha256) };
    return json(measures);
  });
