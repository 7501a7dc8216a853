import type { FrameSize } from '../../math/frame-geometry.ts';
import type { Deliverable } from './deliverable-schema.ts';

/**
 * Pixels of a deliverable from a crop's full size. Its ratio is the crop's; an exact size is taken as it is when the crop
 * has its ratio to a pixel, and else fitted into. Without leave to enlarge, full size is the most.
 */
export function outputSize(
  full: FrameSize,
  { sizeKind, width, height, megapixels, enlarge }: Deliverable
): FrameSize {
  const scale = {
    full: 1,
    long: width / Math.max(full.width, full.height),
    short: width / Math.min(full.width, full.height),
    exact: Math.min(width / full.width, height / full.height),
    megapixels: Math.sqrt((megapixels * 1e6) / (full.width * full.height))
  }[sizeKind];
  if (scale >= 1 && !enlarge) return full;
  const fitted = {
    width: Math.max(1, Math.round(full.width * scale)),
    height: Math.max(1, Math.round(full.height * scale))
  };
  const near = Math.abs(fitted.width - width) <= 1 && Math.abs(fitted.height - height) <= 1;
  return sizeKind === 'exact' && near ? { width, height } : fitted;
}
