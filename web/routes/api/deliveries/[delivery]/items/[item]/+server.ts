import { open } from 'node:fs/promises';
import { Readable } from 'node:stream';
import sharp from 'sharp';
import { answer, fixedBytes, isId, notFound, wholeNumber } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { picturePath } from '$server/deliveries/delivery-files.ts';
import type { RequestHandler } from './$types';

/** Long edge of the pictures to look at. */
const SMALL = 1100;

/** The picture itself, or with ?small a JPEG of it to look at. */
export const GET: RequestHandler = ({ params, url }) =>
  answer(async () => {
    const found = isId(params.item) ? await picturePath(await getContext(), params.item) : null;
    if (!found) return notFound('picture');
    if (url.searchParams.has('small')) {
      const edge = Math.max(1, wholeNumber(url.searchParams.get('small') ?? '') ?? SMALL);
      const bytes = await sharp(found.path)
        .resize({
          width: Math.min(edge, SMALL),
          height: Math.min(edge, SMALL),
          fit: 'inside',
          withoutEnlargement: true
        })
        .toColourspace('srgb')
        .jpeg({ quality: 84 })
        .toBuffer();
      return fixedBytes(bytes, 'image/jpeg');
    }
    return new Response(Readable.toWeb((await open(found.path)).createReadStream()) as ReadableStream, {
      headers: {
        'content-type': found.type,
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(found.file)}`
      }
    });
  });
