import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { cancelExport, exportById } from '$server/deliveries/exports.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const found = isId(params.export) ? await exportById(await getApp(), params.export) : null;
    return found ? json(found) : notFound('export');
  });

/** Cancels; pictures that are finished stay. */
export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => {
    if (!isId(params.export)) return notFound('export');
    await cancelExport(await getApp(), params.export);
    return json({});
  });
