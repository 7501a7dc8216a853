/** Starting, and what may happen to a running app: its database stops or is killed, others ask it, a second start. */
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import type { Browser } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import type { ItemRow } from '../../server/deliveries/deliveries.ts';
import { ROOT } from '../../server/paths.ts';
import { openBrowser } from '../../tools/open-browser.ts';
import { askForPicture } from './export-picture.ts';
import { runProgram } from './run-program.ts';
import { type Running, newDataFolder, startApp } from './start-app.ts';

const data = newDataFolder();
let app: Running;
let browser: Browser;

beforeAll(async () => {
  app = await startApp(data);
  browser = await openBrowser();
});
afterAll(async () => {
  await browser?.close();
  await app?.interrupt();
});
/** What the app says, where it should go on: a failed test shows it. */
const stillRuns = (): void => expect(app.child.exitCode, app.output()).toBeNull();

const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
const clusterPid = (): number =>
  Number(readFileSync(join(data, 'database/cluster/postmaster.pid'), 'utf8').split('\n')[0]);

/** A request with headers that a browser would not let a page set. */
function ask(method: string, path: string, headers: Record<string, string>, body?: string): Promise<number> {
  const { hostname, port } = new URL(app.address);
  return new Promise((resolve, reject) => {
    const sent = request({ hostname, port, path, method, headers }, (answer) => {
      answer.resume();
      resolve(answer.statusCode!);
    });
    sent.once('error', reject);
    sent.end(body);
  });
}

async function newFrame(name: string): Promise<{ jobId: string; frameId: string }> {
  const headers = { 'content-type': 'application/json' };
  const made = await fetch(`${app.address}/api/jobs`, {
    method: 'POST',
    headers,
    body: JSON.stringify({ name })
  });
  const { id: jobId } = (await made.json()) as { id: string };
  const bytes = readFileSync(join(inject('photographs'), 'SML_0101.dng'));
  const added = await fetch(`${app.address}/api/jobs/${jobId}/frames?name=SML_0101.dng`, {
    method: 'POST',
    body: bytes,
    headers: { 'content-type': 'application/octet-stream' }
  });
  return { jobId, frameId: ((await added.json()) as { id: string }).id };
}

const stateOf = async (frameId: string): Promise<string> => {
  const answer = await fetch(`${app.address}/api/frames/${frameId}`);
  return answer.ok ? ((await answer.json()) as { frame: { state: string } }).frame.state : `${answer.status}`;
};

describe('a second start on the same data folder', () => {
  it('is told who has it, and touches nothing', async () => {
    const pid = clusterPid();
    await expect(runProgram('start', '--empty', '--data', data, '--port', '4999')).rejects.toThrow(
      `runs on ${data} already, at ${app.address}`
    );
    expect(clusterPid()).toBe(pid);
    expect((await fetch(`${app.address}/api/jobs`)).status).toBe(200);
  });
});

describe('requests', () => {
  const json = { 'content-type': 'application/json' };
  it('are answered under known names only, so that no other site’s name can lead here', async () => {
    const { port } = new URL(app.address);
    for (const host of [`127.0.0.1:${port}`, `localhost:${port}`, `[::1]:${port}`])
      expect(await ask('GET', '/api/jobs', { host }), host).toBe(200);
    for (const host of [`rebound.example:${port}`, 'localhost.example', '10.1.2.3', 'x y'])
      expect(await ask('GET', '/api/jobs', { host }), host).toBe(403);
  });

  it('that change something come from the app’s own pages, or from no page at all', async () => {
    const body = JSON.stringify({ name: 'Job' });
    const { host } = new URL(app.address);
    const post = (headers: Record<string, string>): Promise<number> =>
      ask('POST', '/api/jobs', { host, ...json, ...headers }, body);
    expect(await post({})).toBe(201);
    expect(await post({ origin: app.address, 'sec-fetch-site': 'same-origin' })).toBe(201);
    expect(await post({ 'sec-fetch-site': 'cross-site' })).toBe(403);
    expect(await post({ 'sec-fetch-site': 'same-site' })).toBe(403);
    expect(await post({ origin: 'http://rebound.example' })).toBe(403);
    expect(await post({ origin: 'null' })).toBe(403);
    // Without a body, too: as a plain form or a fetch without preflight would send it.
    const frame = '/api/frames/00000000-0000-0000-0000-000000000000';
    expect(await ask('POST', `${frame}/true-up`, { host, 'sec-fetch-site': 'cross-site' })).toBe(403);
    expect(await ask('DELETE', frame, { host, origin: 'http://rebound.example' })).toBe(403);
  });

  it('have limits of size, and answers tell the browser how far to trust them', async () => {
    const { frameId } = await newFrame('Sizes');
    const send = async (path: string, method: string, body: string): Promise<string> => {
      const answer = await fetch(`${app.address}/api${path}`, { method, body, headers: json });
      return `${answer.status} ${((await answer.json()) as { error?: string }).error ?? ''}`;
    };
    expect(await send('/jobs', 'POST', JSON.stringify({ name: 'x', client: 'y'.repeat(1.1e6) }))).toMatch(
      /^413 .*too large: at most 1 MB/
    );
    const recipe = JSON.stringify({ version: 0, recipe: { lens: { profile: 'z'.repeat(8.1e6) } } });
    expect(await send(`/frames/${frameId}/recipe`, 'PUT', recipe)).toMatch(/^413 .*recipe.*at most 8 MB/);
    const page = await fetch(app.address);
    const policy = page.headers.get('content-security-policy')!;
    expect(policy).toMatch(/default-src 'self'/);
    expect(policy).toMatch(/frame-ancestors 'none'/);
    expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/);
    for (const url of [app.address, `${app.address}/mark.svg`, `${app.address}/api/jobs`]) {
      const { headers } = await fetch(url);
      expect(headers.get('x-content-type-options'), url).toBe('nosniff');
      expect(headers.get('referrer-policy'), url).toBe('same-origin');
      expect(headers.get('content-security-policy'), url).toMatch(/frame-ancestors 'none'/);
      expect(headers.get('cross-origin-embedder-policy'), url).toBe('require-corp');
    }
  });

  it('find pages that break none of these rules', async () => {
    const page = await browser.newPage();
    const complaints: string[] = [];
    page.on('console', (message) => message.type() === 'error' && complaints.push(message.text()));
    page.on('pageerror', (error) => complaints.push(String(error)));
    for (const path of ['/', '/lenses', '/deliverables']) {
      await page.goto(app.address + path, { waitUntil: 'networkidle2' });
      await pause(300);
    }
    await page.close();
    expect(complaints).toEqual([]);
  });
});

describe('event streams', () => {
  it('tell everything at first, then what has changed, and end with their page', async () => {
    const { jobId, frameId } = await newFrame('Told');
    await expect.poll(() => stateOf(frameId), { timeout: 60000 }).toBe('ready');
    const gone = new AbortController();
    const answer = await fetch(`${app.address}/api/jobs/${jobId}/events`, { signal: gone.signal });
    expect(answer.headers.get('content-type')).toBe('text/event-stream');
    const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
    let text = '';
    const next = async (): Promise<{ all: boolean; cards: { frame: { id: string; room: string } }[] }> => {
      while (!text.includes('\n\n')) text += (await reader.read()).value ?? '';
      const [event] = text.split('\n\n');
      text = text.slice(event.length + 2);
      return event.startsWith('data: ') ? (JSON.parse(event.slice(6)) as never) : next();
    };
    const first = await next();
    expect([first.all, first.cards.map(({ frame }) => frame.id)]).toEqual([true, [frameId]]);
    const change = { method: 'PATCH', headers: { 'content-type': 'application/json' } };
    const rename = (room: string): Promise<Response> =>
      fetch(`${app.address}/api/frames/${frameId}`, { ...change, body: JSON.stringify({ room }) });
    await rename('Hall');
    const second = await next();
    expect([second.all, second.cards[0].frame.room]).toEqual([false, 'Hall']);
    // Many changes at once come together.
    await Promise.all(['a', 'b', 'c', 'd'].map(rename));
    await rename('Stair');
    const told = [await next()];
    while (told.at(-1)!.cards[0].frame.room !== 'Stair') told.push(await next());
    expect(told.length).toBeLessThanOrEqual(3);
    await fetch(`${app.address}/api/frames/${frameId}`, { method: 'DELETE' });
    expect(await next()).toEqual({ all: true, cards: [] });
    gone.abort();
    expect((await fetch(`${app.address}/api/jobs/00000000-0000-0000-0000-000000000000/events`)).status).toBe(
      404
    );
  });
});

describe('the database', () => {
  it('may be killed while work is queued: the app says so, waits, starts it again, and goes on', async () => {
    const { frameId } = await newFrame('Killed');
    await expect.poll(() => stateOf(frameId), { timeout: 60000 }).toBe('ready');
    const delivery = await askForPicture(app.address, frameId);
    const server = clusterPid();
    // All of it: its children would otherwise keep the shared memory for a while.
    execFileSync('pkill', ['-KILL', '-P', String(server)]);
    process.kill(server, 'SIGKILL');
    const answers: string[] = [];
    for (let i = 0; i < 20; i++) {
      const answer = await fetch(`${app.address}/api/jobs`).catch((error: Error) => {
        throw new Error(`${error.message}:\n${app.output()}`);
      });
      if (answer.status === 503) answers.push(((await answer.json()) as { error: string }).error);
      await pause(100);
    }
    for (const text of answers) expect(text).toMatch(/database is away.*nothing is lost/);
    await expect
      .poll(async () => (await fetch(`${app.address}/api/jobs`)).status, { timeout: 60000 })
      .toBe(200);
    await expect
      .poll(
        async () => {
          const answer = await fetch(`${app.address}/api/frames/${frameId}/deliveries`);
          const items = (answer.ok ? await answer.json() : []) as ItemRow[];
          return items.find((item) => item.delivery_id === delivery)?.state;
        },
        { timeout: 90000 }
      )
      .toBe('done');
    stillRuns();
    expect(app.output()).toMatch(/The database stopped\. It is started again…\n.*The database is back/s);
  });

  it('is away on a page, and the page comes by itself when it is back', async () => {
    const page = await browser.newPage();
    execFileSync('pkill', ['-KILL', '-P', String(clusterPid())]);
    process.kill(clusterPid(), 'SIGKILL');
    await page.goto(app.address, { waitUntil: 'domcontentloaded' });
    await page.waitForFunction(() => document.body.textContent!.includes('Killed'), { timeout: 60000 });
    await page.close();
  });

  it('is up again right after everything was killed', async () => {
    const server = clusterPid();
    await app.kill();
    execFileSync('pkill', ['-KILL', '-P', String(server)]);
    process.kill(server, 'SIGKILL');
    app = await startApp(data);
    const jobs = (await (await fetch(`${app.address}/api/jobs`)).json()) as { name: string }[];
    expect(jobs.map(({ name }) => name)).toContain('Killed');
  });
});

describe('beyond this machine', () => {
  const open = newDataFolder();
  const start = (input?: string): { status: number | null; stderr: string; stdout: string } =>
    spawnSync(
      join(ROOT, 'bin/start'),
      input === undefined
        ? ['--empty', '--data', open, '--host', '0.0.0.0']
        : ['--set-password', '--data', open],
      { encoding: 'utf8', input: input ?? '' }
    );

  it('nothing is started without a password, and a short one is refused', () => {
    expect(start()).toMatchObject({ stderr: expect.stringMatching(/needs a password first/) });
    expect(start('short\n')).toMatchObject({ stderr: expect.stringMatching(/at least 8/) });
    expect(start('plumb and level\n')).toMatchObject({ status: 0 });
  });

  it('the password is asked once in each browser, tries are limited, and nothing is told before', async () => {
    const studio = await startApp(open, ['--host', '0.0.0.0']);
    const address = studio.address;
    const enter = (password: string): Promise<Response> =>
      fetch(`${address}/api/enter`, {
        method: 'POST',
        body: JSON.stringify({ password }),
        headers: { 'content-type': 'application/json' }
      });
    expect((await fetch(`${address}/api/jobs`)).status).toBe(401);
    expect((await fetch(address, { redirect: 'manual' })).headers.get('location')).toMatch(/^\/enter/);
    const context = await browser.createBrowserContext();
    const page = await context.newPage();
    await page.goto(`${address}/lenses`, { waitUntil: 'networkidle2' });
    await page.locator('input[type=password]').fill('plumb or level');
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => document.body.textContent!.includes('This is not the password'));
    await page.locator('input[type=password]').fill('plumb and level');
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => location.pathname === '/lenses');
    await page.reload({ waitUntil: 'networkidle2' });
    expect(new URL(page.url()).pathname).toBe('/lenses');
    await context.close();
    const forged = { cookie: `pass=${Date.now() + 1e9}.${'0'.repeat(64)}` };
    expect((await fetch(`${address}/api/jobs`, { headers: forged })).status).toBe(401);
    const statuses: number[] = [];
    for (let i = 0; i < 7; i++) statuses.push((await enter(`guess ${i}`)).status);
    expect(statuses.slice(0, 5)).toEqual([422, 422, 422, 422, 422]);
    expect(statuses.slice(5)).toEqual([429, 429]);
    expect((await enter('plumb and level')).status).toBe(429);
    expect(await studio.interrupt()).toBe(0);
  });
});
