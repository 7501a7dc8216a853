/** The demo set: taken by the demo camera once, then added through the app's own routes like any other frames. */
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { newPass } from '../access/password.ts';
import { ROOT } from '../paths.ts';

interface DemoList {
  jobs: { name: string; client: string; site: string; files: string[] }[];
}

/** Takes the pictures that are not there yet. */
export function takeDemoFrames(folder: string, say: (text: string) => void): Promise<void> {
  if (existsSync(join(folder, 'demo.json'))) return Promise.resolve();
  say('Taking the demo photographs (once, about a minute and a half)…');
  const child = spawn(
    process.execPath,
    ['--no-warnings', '--import', 'tsx', join(ROOT, 'scenes/make-demo.ts'), folder],
    {
      cwd: ROOT,
      stdio: ['ignore', 'inherit', 'inherit']
    }
  );
  process.once('exit', () => child.kill());
  return new Promise((resolve, reject) => {
    child.once('exit', (code) =>
      code === 0 ? resolve() : reject(new Error('The demo photographs could not be taken.'))
    );
  });
}

async function post<T>(url: string, body: BodyInit, type: string, cookie: string): Promise<T> {
  const response = await fetch(url, { method: 'POST', body, headers: { 'content-type': type, cookie } });
  if (!response.ok) throw new Error(`${url} answered ${response.status}: ${await response.text()}`);
  return (await response.json()) as T;
}

/** Makes the demo jobs and adds their frames; done once, remembered in the data folder. */
export async function addDemoJobs(address: string, data: string, say: (text: string) => void): Promise<void> {
  const done = join(data, 'demo-added');
  if (existsSync(done)) return;
  const folder = join(data, 'demo');
  const { jobs } = JSON.parse(readFileSync(join(folder, 'demo.json'), 'utf8')) as DemoList;
  const total = jobs.reduce((sum, job) => sum + job.files.length, 0);
  const cookie = process.env.LINE_TRUE_LOCKED ? `pass=${await newPass(data)}` : '';
  const known = (await (await fetch(`${address}/api/jobs`, { headers: { cookie } })).json()) as {
    id: string;
    name: string;
  }[];
  let added = 0;
  // The job listed first is made last, so that it is the newest.
  for (const job of [...jobs].reverse()) {
    const id =
      known.find((other) => other.name === job.name)?.id ??
      (
        await post<{ id: string }>(
          `${address}/api/jobs`,
          JSON.stringify({ name: job.name, client: job.client, site: job.site }),
          'application/json',
          cookie
        )
      ).id;
    for (const file of job.files) {
      const bytes = readFileSync(join(folder, file));
      await post(`${address}/api/jobs/${id}/frames?name=${file}`, bytes, 'application/octet-stream', cookie);
      say(`Adding demo frames: ${++added} of ${total}`);
    }
  }
  writeFileSync(done, '');
}
