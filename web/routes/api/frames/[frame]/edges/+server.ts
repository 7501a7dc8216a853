import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { readEdges } from '$server/frames/prepare-frame.ts';
import type { RequestHandler } from './$types';

/** Strong edges with the offsets of red and blue, as measured when the frame was added. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const app = await getApp();
    const frame = isId(params.frame) ? await frameById(app, params.frame) : null;
    return frame ? json(await readEdges(app, frame.sha256)) : notFound('frame');
  });
