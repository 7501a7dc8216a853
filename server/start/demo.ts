/**
 * The demo set: taken by the demo camera behind the running app, the first of each job first, and added through the app's own
 * routes like any other frames. Broken off, it goes on at the next start: what was taken stands in the folder.
 */
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { newPass } from '../access/password.ts';
import { ROOT } from '../paths.ts';
import { sayDemoProgress } from './demo-progress.ts';

interface DemoJob {
  name: string;
  client: string;
  site: string;
  files: string[];
}

/** What the demo camera says: first its jobs, then each photograph that is there. */
type Said = { jobs: DemoJob[] } | { file: string };

/** Takes the pictures that are not there yet, in the order in which they should be seen. */
function takeFrames(folder: string, hear: (said: Said) => void, gently: boolean): Promise<void> {
  const child = spawn(process.execPath, ['--no-warnings', join(ROOT, 'programs/make-demo.mjs'), folder], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'inherit']
  });
  // Whoever works with the app meanwhile comes first.
  if (gently && child.pid) setPriority(child.pid, constants.priority.PRIORITY_LOW);
  createInterface({ input: child.stdout }).on('line', (line) => hear(JSON.parse(line) as Said));
  const end = (): void => void child.kill();
  process.once('exit', end);
  return new Promise((resolve, reject) => {
    child.once('close', (code) => {
      process.off('exit', end);
      if (code === 0) resolve();
      else reject(new Error('The demo photographs could not be taken.'));
    });
  });
}

export async function takeDemoFrames(folder: string, say: (text: string) => void): Promise<void> {
  if (existsSync(join(folder, 'demo.json'))) return;
  say('Taking the demo photographs (once, some minutes)…');
  await takeFrames(folder, (said) => 'file' in said && say(`  ${said.file}`), false);
}

async function post<T>(url: string, body: BodyInit, type: string, cookie: string): Promise<T> {
  const response = await fetch(url, { method: 'POST', body, headers: { 'content-type': type, cookie } });
  if (!response.ok) throw new Error(`${url} answered ${response.status}: ${await response.text()}`);
  return (await response.json()) as T;
}

/** The ids of the demo jobs by their names; those that are missing are made. */
async function demoJobs(
  address: string,
  jobs: readonly DemoJob[],
  cookie: string
): Promise<Map<string, string>> {
  const known = (await (await fetch(`${address}/api/jobs`, { headers: { cookie } })).json()) as {
    id: string;
    name: string;
  }[];
  const ids = new Map(known.map(({ id, name }) => [name, id]));
  // The job listed first is made last, so that it is the newest.
  for (const { name, client, site } of [...jobs].reverse()) {
    if (ids.has(name)) continue;
    const url = `${address}/api/jobs`;
    const { id } = await post<{ id: string }>(
      url,
      JSON.stringify({ name, client, site }),
      'application/json',
      cookie
    );
    ids.set(name, id);
  }
  return ids;
}

/** Takes the demo photographs and adds them; done once, remembered in the data folder. */
export async function addDemo(address: string, data: string): Promise<void> {
  const done = join(data, 'demo-added');
  if (existsSync(done)) return;
  const cookie = process.env.LINE_TRUE_LOCKED ? `pass=${await newPass(data)}` : '';
  const folder = join(data, 'demo');
  let jobs: readonly DemoJob[] = [];
  let ids = new Map<string, string>();
  let added = 0;
  const tell = (): void => {
    const total = jobs.reduce((sum, job) => sum + job.files.length, 0);
    sayDemoProgress(data, added < total ? { done: added, total } : null);
  };
  const take = async (said: Said): Promise<void> => {
    if ('jobs' in said) {
      jobs = said.jobs;
      ids = await demoJobs(address, jobs, cookie);
      return tell();
    }
    const job = jobs.find(({ files }) => files.includes(said.file));
    if (!job) return;
    // Said before: pages are told anew as the frame comes in.
    added++;
    tell();
    // What was added before a kill is known, and stays as it is.
    const url = `${address}/api/jobs/${ids.get(job.name)}/frames?name=${said.file}`;
    await post(url, readFileSync(join(folder, said.file)), 'application/octet-stream', cookie);
  };
  let taking = Promise.resolve();
  await takeFrames(
    folder,
    (said) => {
      taking = taking.then(() => take(said));
      // Heard of below.
      taking.catch(() => {});
    },
    true
  );
  await taking;
  sayDemoProgress(data, null);
  writeFileSync(done, '');
}
