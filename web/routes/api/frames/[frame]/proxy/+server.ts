import { readFile } from 'node:fs/promises';
import { answer, isId, notFound, taggedBytes } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { proxyPath } from '$server/frames/proxy.ts';
import { madeTag } from '$server/originals/derived.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, request }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (!frame || frame.state !== 'ready') return notFound('frame');
    const path = proxyPath(context.data, frame.sha256, frame.facts!);
    return taggedBytes(request, await madeTag(path), () => readFile(path));
  });
