/** What a delivery made: for a person as CSV (RFC 4180), for a program as JSON. */
import { stringify } from 'csv-stringify/sync';
import type { Context } from '../context.ts';
import type { Readings } from '../../core/render/readings/measure.ts';
import type { Report } from '../render/report.ts';

export interface ManifestEntry {
  file: string;
  frame: string;
  deliverable: string;
  bytes: number;
  width: number;
  height: number;
  sha256: string;
  report: Report;
}

/** Finished pictures of a delivery, in order. */
export async function finishedItems(context: Context, deliveryId: string): Promise<ManifestEntry[]> {
  const { rows } = await context.db.query<ManifestEntry>(
    `select i.placed as file, f.name as frame, i.deliverable->>'name' as deliverable, i.bytes::float8 as bytes,
       i.width, i.height, i.sha256, i.report
     from delivery_items i join frames f on f.id = i.frame_id
     where i.delivery_id = $1 and i.state = 'done' order by i.position`,
    [deliveryId]
  );
  return rows;
}

const COLUMNS = [
  'file',
  'frame',
  'deliverable',
  'bytes',
  'width',
  'height',
  'sha256',
  'plumb_degrees',
  'level_degrees',
  'straight_px',
  'fringe_px',
  'neutral_chroma',
  'falloff_ev',
  'cover_percent',
  'sampling',
  'proportion',
  'found_by_itself',
  'mended',
  'changed_outside'
];

/** Readings that are of lines found by themselves, as nothing was marked, each with its standard error. */
const foundText = ({ plumb, level, straight }: Readings): string =>
  Object.entries({ plumb, level, straight })
    .flatMap(([name, reading]) => (reading?.found ? [`${name} ±${rounded(reading.found.error)}`] : []))
    .join(' ');

const rounded = (value: number | null | undefined): number | null =>
  value === null || value === undefined ? null : Math.round(value * 1000) / 1000;

/** Texts that a spreadsheet would run as a formula are defused. */
export function manifestCsv(entries: readonly ManifestEntry[]): string {
  const rows = entries.map(({ file, frame, deliverable, bytes, width, height, sha256, report }) => {
    const { readings } = report;
    return [
      file,
      frame,
      deliverable,
      bytes,
      width,
      height,
      sha256,
      rounded(readings.plumb?.rms),
      rounded(readings.level?.rms),
      rounded(readings.straight?.rms),
      rounded(readings.fringe?.worst),
      rounded(readings.neutral?.rms),
      rounded(readings.falloff),
      rounded(readings.cover),
      rounded(readings.sampling),
      readings.proportion,
      foundText(readings),
      report.mended?.words ?? '',
      report.outside ?? ''
    ];
  });
  return stringify([COLUMNS, ...rows], {
    record_delimiter: 'windows',
    // Single carriage returns and line feeds end no record, and are quoted all the same.
    quoted_match: /[\r\n]/,
    escape_formulas: true
  });
}

export function manifestJson(entries: readonly ManifestEntry[]): string {
  const files = entries.map(({ report, ...entry }) => ({ ...entry, readings: report.readings, report }));
  return JSON.stringify({ manifest: 'line-true', version: 1, files }, null, 2) + '\n';
}
