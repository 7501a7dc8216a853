import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { exportsOfFrame, requestExport, validExport } from '$server/deliveries/exports.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    return json(await exportsOfFrame(await getApp(), params.frame));
  });

export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const id = await requestExport(await getApp(), params.frame, validExport(await request.json()));
    return json({ id }, { status: 202 });
  });
