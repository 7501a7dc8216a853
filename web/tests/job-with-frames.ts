/** A job with photographs of the demo camera, ready to be worked on. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { inject } from 'vitest';

export interface JobWithFrames {
  jobId: string;
  /** Frames' ids by their names. */
  ids: Record<string, string>;
}

/** A frame as the app tells of it now. */
export async function frameAt<T>(address: string, id: string): Promise<T> {
  const response = await fetch(`${address}/api/frames/${id}`);
  return ((await response.json()) as { frame: T }).frame;
}

/** Makes the job over HTTP and leaves its page open once all frames are ready and measured. */
export async function jobWithFrames(
  page: Page,
  address: string,
  jobName: string,
  names: readonly string[]
): Promise<JobWithFrames> {
  const post = async (path: string, body: BodyInit, type: string): Promise<string> => {
    const response = await fetch(`${address}/api${path}`, {
      method: 'POST',
      body,
      headers: { 'content-type': type }
    });
    return ((await response.json()) as { id: string }).id;
  };
  const jobId = await post('/jobs', JSON.stringify({ name: jobName }), 'application/json');
  const ids: Record<string, string> = {};
  for (const name of names) {
    const bytes = readFileSync(join(inject('photographs'), name));
    ids[name] = await post(`/jobs/${jobId}/frames?name=${name}`, bytes, 'application/octet-stream');
  }
  await page.goto(`${address}/jobs/${jobId}`, { waitUntil: 'domcontentloaded' });
  await page.waitForFunction(
    (n) => document.querySelectorAll('.frame[data-state=ready] img').length === n,
    { timeout: 90000 },
    names.length
  );
  // What follows once frames can be opened.
  const isMeasured = async (id: string): Promise<boolean> =>
    (await frameAt<{ measured: boolean }>(address, id)).measured;
  for (const id of Object.values(ids))
    while (!(await isMeasured(id))) await new Promise((done) => setTimeout(done, 100));
  return { jobId, ids };
}
