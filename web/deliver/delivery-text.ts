/** Deliverables, times and sizes in words. */
import type { Deliverable } from '$core/picture/output/deliverable-schema.ts';

export const bytesText = (bytes: number): string =>
  bytes >= 1e9
    ? `${(bytes / 1e9).toFixed(1)} GB`
    : bytes >= 1e6
      ? `${(bytes / 1e6).toFixed(1)} MB`
      : `${Math.max(1, Math.round(bytes / 1000))} kB`;

export const secondsText = (seconds: number): string =>
  seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`;

/** What a deliverable is, on one line. */
export function whatText(deliverable: Deliverable): string {
  const { ratio, sizeKind, width, height, megapixels, format, depth, quality, limit } = deliverable;
  const size = {
    full: 'full size',
    long: `long edge ${width} px`,
    short: `short edge ${width} px`,
    exact: `${width} × ${height} px`,
    megapixels: `${megapixels} MP`
  }[sizeKind];
  const kind = depth === 16 ? `${format.toUpperCase()} 16 bit` : format.toUpperCase();
  const most =
    limit !== null ? `up to ${limit} kB` : format === 'tiff' || format === 'png' ? '' : `quality ${quality}`;
  return [ratio, size, kind, most].filter(Boolean).join(', ');
}
