import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { exportById } from '$server/deliveries/exports.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const found = isId(params.export) ? await exportById(await getApp(), params.export) : null;
    if (!found?.report) return notFound('report');
    const bytes = new TextEncoder().encode(JSON.stringify(found.report, null, 2) + '\n');
    return fixedBytes(
      bytes,
      'application/json',
      (found.file ?? 'picture').replace(/\.jpg$/, '') + '-report.json'
    );
  });
