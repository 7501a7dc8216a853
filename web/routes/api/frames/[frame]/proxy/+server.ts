import { readFile } from 'node:fs/promises';
import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { proxyPath } from '$server/frames/proxy.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (!frame || frame.state !== 'ready') return notFound('frame');
    return fixedBytes(await readFile(proxyPath(context.data, frame.sha256)), 'application/octet-stream');
  });
