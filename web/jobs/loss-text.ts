/** What removing loses, in words, before it is done. */
import type { Loss } from '$server/jobs/remove-job.ts';

const count = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

export function lossText({ frames, worked, deliveries, bytes }: Loss): string {
  if (frames === 0) return 'Nothing is lost: it holds no frames.';
  const lost = [
    `${count(frames, 'frame', 'frames')}${worked > 0 ? `, ${worked} of them with settings of their own` : ''}`,
    ...(deliveries > 0 ? [`the record of ${count(deliveries, 'delivery', 'deliveries')}`] : [])
  ].join(', and ');
  const freed =
    bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${Math.max(1, Math.round(bytes / 1e6))} MB`;
  const space = bytes > 0 ? ` The originals go with them, unless another job holds them: ${freed}.` : '';
  return `Lost for good: ${lost}.${space} Delivered files stay where they are.`;
}
