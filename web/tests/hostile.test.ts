/** Requests that nobody sends by mistake, to every route: each is answered in words, and none by a fault of the app's own. */
import { readFileSync, readdirSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { ROOT } from '../../server/paths.ts';
import { type Running, newDataFolder, startApp } from './start-app.ts';

const PLAIN = { 'content-type': 'application/octet-stream' };

let app: Running;
let job = '';
let frame = '';

beforeAll(async () => {
  app = await startApp(newDataFolder());
  job = ((await send('POST', '/jobs', { name: 'Hostile' })).body as { id: string }).id;
  const bytes = readFileSync(join(inject('photographs'), 'SML_0101.dng'));
  const added = await fetch(`${app.address}/api/jobs/${job}/frames?name=a.dng`, {
    method: 'POST',
    headers: PLAIN,
    body: bytes
  });
  frame = ((await added.json()) as { id: string }).id;
  for (;;) {
    const { body } = await send('GET', `/frames/${frame}`);
    if ((body as { frame: { state: string } }).frame.state === 'ready') break;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
});
afterAll(() => app?.interrupt());

/** Each request has a connection of its own: one that an answer closed is no other's. */
function send(method: string, path: string, body?: unknown): Promise<{ status: number; body: unknown }> {
  const text = body === undefined || typeof body === 'string' ? body : JSON.stringify(body);
  return new Promise((resolve, reject) => {
    const carried = method === 'GET' ? '' : (text ?? '');
    const headers = { 'content-type': 'application/json', 'content-length': Buffer.byteLength(carried) };
    const sent = request(`${app.address}/api${path}`, { method, headers, agent: false }, (answer) => {
      const status = answer.statusCode!;
      // Streams of events never end by themselves.
      if (!answer.headers['content-type']?.includes('json')) {
        answer.destroy();
        resolve({ status, body: null });
        return;
      }
      let said = '';
      answer.setEncoding('utf8');
      answer.on('data', (part: string) => (said += part));
      answer.on('end', () => resolve({ status, body: JSON.parse(said) as unknown }));
      answer.on('error', reject);
    });
    sent.on('error', reject);
    sent.end(carried);
  });
}

/** Every route below /api, with the methods that it takes. */
const ROUTES = readdirSync(join(ROOT, 'web/routes/api'), { recursive: true, encoding: 'utf8' })
  .filter((name) => name.endsWith('+server.ts'))
  .map((name) => ({
    path: `/${name.replace(/\/?\+server\.ts$/, '')}`,
    methods: [
      ...readFileSync(join(ROOT, 'web/routes/api', name), 'utf8').matchAll(
        /export const (GET|POST|PUT|PATCH|DELETE)\b/g
      )
    ].map(([, method]) => method)
  }));

const NUL = 'a\0b';
const HALF = 'a\ud800b';
const PARAMS = [
  '%00',
  'constructor',
  '__proto__',
  'NaN',
  '-1',
  '1e99',
  '..%2f..',
  "'; drop table jobs;--",
  '%F0%9F%98%80',
  '00000000-0000-4000-8000-000000000000'
];
const BODIES: unknown[] = [
  'null',
  '[]',
  '3',
  '"text"',
  '{',
  '',
  '{"__proto__": {"a": 1}}',
  ...[NUL, HALF, '\u202e\u0007', '__proto__'].flatMap((text) => [
    { name: text },
    { name: 'x', client: text, site: text },
    { room: text },
    { action: text },
    { ids: [text] },
    { to: [text] },
    { frames: [text], profile: text },
    { files: [{ name: text, text }] },
    { version: 0, recipe: { colour: { look: text } } },
    { version: 0, recipe: { [text]: {} } },
    { picks: [[text, text]] },
    { password: text },
    { [text]: text }
  ]),
  ...['2026-02-30', '0000-01-01', '9999-99-99', '2025-02-29', ''].map((due) => ({ name: 'x', due })),
  { version: 1e99, recipe: {} },
  { version: -1, recipe: null },
  { files: [null] },
  { name: 'x'.repeat(100_000) },
  { ids: Array.from({ length: 6000 }, () => frame) }
];
const QUERIES = [
  '?name=%00',
  '?frames=%00',
  '?small=-5',
  '?small=NaN',
  '?small=1e9',
  '?mode=constructor',
  '?named=%00&text=%00',
  '?text=%25%5f%5c&origin=x',
  '?space=__proto__',
  '?format=%F0'
];

async function eightAtATime(asks: (() => Promise<void>)[]): Promise<void> {
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      for (let next = asks.shift(); next; next = asks.shift()) await next();
    })
  );
}

describe('every route', () => {
  it('answers hostile requests in words, without a fault', async () => {
    const faults: string[] = [];
    let asked = 0;
    const ask = async (method: string, path: string, body?: unknown): Promise<void> => {
      asked++;
      // A large body that nobody reads may meet a connection that its answer closed: that says nothing of the answer.
      const { status, body: said } = await send(method, path, body).catch((error: Error) => {
        const large = (JSON.stringify(body) ?? '').length > 60_000;
        return { status: large ? 404 : 599, body: { error: error.message } };
      });
      const told =
        ![400, 422].includes(status) || typeof (said as { error?: unknown } | null)?.error === 'string';
      if (status >= 500 || !told)
        faults.push(`${status} ${method} ${path.slice(0, 80)} ${JSON.stringify(body)?.slice(0, 80)}`);
    };
    for (const { path, methods } of ROUTES)
      for (const method of methods) {
        const real = path.replace('[frame]', frame).replace('[job]', job);
        const filled = (param: string): string => real.replace(/\[\w+\]/g, param);
        const names = /\[\w+\]/.test(real) ? PARAMS : [];
        const writes = method !== 'GET' && method !== 'DELETE';
        // Truing up takes its time for each body that says nothing of its mode: some of them will do.
        const bodies = path.endsWith('/true-up') ? BODIES.filter((_, i) => i % 6 === 0) : BODIES;
        await eightAtATime([
          ...names.map((param) => () => ask(method, filled(param), {})),
          ...QUERIES.map((query) => () => ask(method === 'DELETE' ? 'GET' : method, filled('0') + query, {})),
          ...(writes ? bodies.map((body) => () => ask(method, filled('0'), body)) : [])
        ]);
      }
    expect(faults).toEqual([]);
    expect(asked).toBeGreaterThan(1200);
    expect(app.child.exitCode).toBeNull();
    expect(app.output()).not.toMatch(/invalid byte sequence|TypeError/);
  });

  it('shows a frame whose recipe names a look that is none', async () => {
    const { body } = await send('GET', `/frames/${frame}`);
    const { version } = (body as { frame: { version: number } }).frame;
    const recipe = { colour: { look: 'constructor' } };
    expect((await send('PUT', `/frames/${frame}/recipe`, { version, recipe })).status).toBe(200);
    const picture = await fetch(`${app.address}/api/frames/${frame}/thumbnail`);
    expect(picture.status).toBe(200);
    expect(picture.headers.get('content-type')).toBe('image/jpeg');
  });

  it('is not held up by files that take long to parse', async () => {
    const long = `LUT_3D_SIZE 2\n${'0 '.repeat(16e6)}`;
    const files = { files: Array.from({ length: 400_000 }, (_, i) => ({ name: `${i}`, text: '' })) };
    const xml = `<lensdatabase>${'<lens><maker>a</maker><model>b</model></lens>'.repeat(300_000)}</lensdatabase>`;
    const slow = [
      fetch(`${app.address}/api/looks?name=x.cube`, { method: 'POST', headers: PLAIN, body: long }),
      fetch(`${app.address}/api/lenses`, { method: 'POST', headers: PLAIN, body: JSON.stringify(files) }),
      fetch(`${app.address}/api/lenses`, {
        method: 'POST',
        headers: PLAIN,
        body: JSON.stringify({ files: [{ name: 'x.xml', text: xml }] })
      })
    ];
    let longest = 0;
    let waiting = true;
    const others = (async () => {
      while (waiting) {
        const began = performance.now();
        await send('GET', '/jobs');
        longest = Math.max(longest, performance.now() - began);
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    })();
    const answers = await Promise.all(slow);
    waiting = false;
    await others;
    expect(answers.slice(0, 2).map(({ status }) => status)).toEqual([422, 422]);
    expect(answers[2].status).toBeLessThan(500);
    // Bodies of tens of megabytes are read meanwhile; parsed by the server itself they took seconds.
    expect(longest).toBeLessThan(1500);
  });

  it('tells a browser that holds pixels whether they are still the ones', async () => {
    const proxy = `${app.address}/api/frames/${frame}/proxy`;
    const first = await fetch(proxy);
    const tag = first.headers.get('etag')!;
    expect(first.headers.get('cache-control')).toContain('no-cache');
    const bytes = Buffer.from(await first.arrayBuffer());
    expect((await fetch(proxy, { headers: { 'if-none-match': tag } })).status).toBe(304);
    // Reading a tile says that it was used, which makes no other one of it.
    const tile = `${app.address}/api/frames/${frame}/tiles/0/0`;
    const ofTile = (await fetch(tile)).headers.get('etag')!;
    for (let n = 0; n < 3; n++) {
      expect((await fetch(tile)).headers.get('etag')).toBe(ofTile);
      expect((await fetch(tile, { headers: { 'if-none-match': ofTile } })).status).toBe(304);
    }
    const { rows } = await remake(bytes);
    expect(rows).toBe(1);
    const again = await fetch(proxy, { headers: { 'if-none-match': tag } });
    expect(again.status).toBe(200);
    expect(again.headers.get('etag')).not.toBe(tag);
    expect(Buffer.from(await again.arrayBuffer())[0]).toBe(bytes[0] ^ 1);
  });
});

/** Writes a proxy anew, as an upgrade does: the same place, other bytes. */
async function remake(bytes: Buffer): Promise<{ rows: number }> {
  const { writeWhole } = await import('../../server/originals/write-whole.ts');
  const data = /--data (\S+)/.exec(app.child.spawnargs.join(' '))![1];
  const found = readdirSync(join(data, 'derived'), { recursive: true, encoding: 'utf8' }).filter((name) =>
    name.endsWith('proxy-root.bin')
  );
  const other = Buffer.from(bytes);
  other[0] ^= 1;
  for (const name of found) await writeWhole(join(data, 'derived', name), other);
  return { rows: found.length };
}
