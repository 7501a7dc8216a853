/** Pictures of a frame as the app makes them: a delivery of one. */
import type { ItemRow } from '../../server/deliveries/deliveries.ts';
import type { Report } from '../../server/render/report.ts';

export interface Exported {
  item: ItemRow;
  bytes: Buffer;
  report: Report;
}

/** The latest picture of a frame, with its report. */
export async function latestPicture(address: string, frameId: string): Promise<Exported> {
  const [item] = (await (await fetch(`${address}/api/frames/${frameId}/deliveries`)).json()) as ItemRow[];
  const url = `${address}/api/deliveries/${item.delivery_id}/items/${item.id}`;
  const bytes = Buffer.from(await (await fetch(url)).arrayBuffer());
  return { item, bytes, report: (await (await fetch(`${url}/report`)).json()) as Report };
}

/** Asks for a picture of a frame; resolves with its delivery's id. */
export async function askForPicture(address: string, frameId: string, settings = {}): Promise<string> {
  const answer = await fetch(`${address}/api/frames/${frameId}/deliveries`, {
    method: 'POST',
    body: JSON.stringify({ name: 'Export', ...settings }),
    headers: { 'content-type': 'application/json' }
  });
  if (!answer.ok) throw new Error(await answer.text());
  return ((await answer.json()) as { id: string }).id;
}

/** Makes a picture of a frame. */
export async function exportPicture(address: string, frameId: string, settings = {}): Promise<Exported> {
  await askForPicture(address, frameId, settings);
  for (const deadline = Date.now() + 90000; ;) {
    await new Promise((resolve) => setTimeout(resolve, 200));
    const [item] = (await (await fetch(`${address}/api/frames/${frameId}/deliveries`)).json()) as ItemRow[];
    if (item.state === 'done') return latestPicture(address, frameId);
    if (item.state === 'failed' || Date.now() > deadline) throw new Error(`${item.state}: ${item.error}`);
  }
}
