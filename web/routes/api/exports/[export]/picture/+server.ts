import { readFile } from 'node:fs/promises';
import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { exportById } from '$server/deliveries/exports.ts';
import { exportPath } from '$server/deliveries/run-export.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const app = await getApp();
    const found = isId(params.export) ? await exportById(app, params.export) : null;
    if (!found || found.state !== 'done') return notFound('picture');
    return fixedBytes(
      await readFile(exportPath(app.data, found.id)),
      'image/jpeg',
      found.file ?? 'picture.jpg'
    );
  });
