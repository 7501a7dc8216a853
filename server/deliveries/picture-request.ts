import type { Deliverable } from '../../core/picture/output/deliverable-schema.ts';
import { outputSize } from '../../core/picture/output/output-size.ts';
import { sharpenOptions } from '../../core/picture/output/sharpen-options.ts';
import type { PictureRequest } from '../render/export-frame.ts';
import type { Rights } from '../render/xmp.ts';

/** What the renderer is asked for by a deliverable. */
export function pictureRequest(deliverable: Deliverable, rights: Rights): PictureRequest {
  const { format, quality, ppi, keepPosition, space, metadata, depth, ratio, sharpening, watermark, limit } =
    deliverable;
  return {
    encoding: { format, quality, ppi, keepPosition, space, metadata, rights },
    depth,
    ratio,
    sizeFor: (full) => outputSize(full, deliverable),
    sharpening: sharpenOptions(sharpening, ppi),
    watermark,
    limit: limit === null ? null : limit * 1000
  };
}
