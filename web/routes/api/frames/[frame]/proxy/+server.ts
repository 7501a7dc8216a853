import { readFile } from 'node:fs/promises';
import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { derivedPath } from '$server/frames/prepare-frame.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const app = await getApp();
    const frame = isId(params.frame) ? await frameById(app, params.frame) : null;
    if (!frame || frame.state !== 'ready') return notFound('frame');
    return fixedBytes(
      await readFile(derivedPath(app.data, frame.sha256, 'proxy.bin')),
      'application/octet-stream'
    );
  });
