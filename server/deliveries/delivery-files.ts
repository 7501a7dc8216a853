/** The finished pictures of a delivery as files: one, or all in a ZIP with manifest and report. */
import { stat } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { lengthsCsv } from '../../core/steps/lines/measure-lengths.ts';
import type { LengthUnit } from '../../core/steps/lines/measure-lengths.ts';
import type { Context } from '../context.ts';
import { zipStream } from '../documents/zip-stream.ts';
import { UserError } from '../user-error.ts';
import { jobById } from '../jobs/jobs.ts';
import { deliveryFolder, pathInFolder } from './delivery-folder.ts';
import type { DeliveryRow } from './deliveries.ts';
import { type ManifestEntry, finishedItems, manifestCsv, manifestJson } from './manifest.ts';
import type { Report } from '../render/report.ts';
import { reportPdf } from './report-pdf.ts';

interface Finished {
  entries: ManifestEntry[];
  pathOf: (file: string) => string;
  head: { job: string; client: string; site: string; date: string };
}

async function finished(context: Context, delivery: DeliveryRow): Promise<Finished> {
  const job = (await jobById(context, delivery.job_id))!;
  const folder = await deliveryFolder(context, delivery.id);
  const entries = await finishedItems(context, delivery.id);
  if (entries.length === 0) throw new UserError('Nothing of this delivery is finished yet.');
  const date = new Date(delivery.created_at).toISOString().slice(0, 10);
  return {
    entries,
    pathOf: (file) => pathInFolder(folder, file),
    head: { job: job.name, client: job.client, site: job.site, date }
  };
}

export async function deliveryReport(context: Context, delivery: DeliveryRow): Promise<Buffer> {
  const { head, entries, pathOf } = await finished(context, delivery);
  return reportPdf(head, entries, pathOf);
}

/** Lengths read on a frame's front, by the name of their file. */
function lengthFiles(entries: readonly ManifestEntry[]): Map<string, string> {
  const files = new Map<string, string>();
  for (const { frame, report } of entries) {
    if (!report.lengths) continue;
    const name = `${frame.replace(/\.[^.]+$/, '')}-lengths.csv`;
    files.set(name, lengthsCsv(report.lengths.measured, report.lengths.unit as LengthUnit));
  }
  return files;
}

/** A ZIP that is made as it is read: its pictures never lie in memory together. */
export async function deliveryZip(context: Context, delivery: DeliveryRow): Promise<Readable> {
  const { head, entries, pathOf } = await finished(context, delivery);
  for (const { file } of entries) {
    if (!(await stat(pathOf(file)).catch(() => null)))
      throw new UserError(`${file} is no longer in the delivery folder. Run the delivery again.`);
  }
  const zip = zipStream();
  for (const { file } of entries) zip.addFile(file, pathOf(file));
  zip.addText('manifest.csv', manifestCsv(entries));
  zip.addText('manifest.json', manifestJson(entries));
  for (const [name, csv] of lengthFiles(entries)) zip.addText(name, csv);
  zip.addText('report.pdf', await reportPdf(head, entries, pathOf));
  return zip.end();
}

/** Path of one finished picture; null when it is not there. */
export async function picturePath(
  context: Context,
  itemId: string
): Promise<{ path: string; file: string; type: string } | null> {
  const { rows } = await context.db.query<{ placed: string; delivery_id: string; format: string }>(
    `select i.placed, i.delivery_id, i.deliverable->>'format' as format from delivery_items i
     where i.id = $1 and i.state = 'done'`,
    [itemId]
  );
  if (rows.length === 0) return null;
  const path = pathInFolder(await deliveryFolder(context, rows[0].delivery_id), rows[0].placed);
  return (await stat(path).catch(() => null))
    ? { path, file: rows[0].placed, type: `image/${rows[0].format}` }
    : null;
}

/** The report of one finished picture, with the name of its file; null when it is not finished. */
export async function itemReport(
  context: Context,
  itemId: string
): Promise<{ report: Report; file: string } | null> {
  const { rows } = await context.db.query<{ report: Report; file: string }>(
    `select report, placed as file from delivery_items where id = $1 and state = 'done'`,
    [itemId]
  );
  return rows[0] ?? null;
}
