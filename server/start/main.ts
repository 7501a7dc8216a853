/** bin/start: database, build, demo data, server; Ctrl-C stops all of it. */
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { parseArgs } from 'node:util';
import { isLoopback } from '../access/known-host.ts';
import { hasPassword, setPassword } from '../access/password.ts';
import { ROOT } from '../paths.ts';
import { buildApp } from './build-app.ts';
import { addDemo } from './demo.ts';
import { ownFolder } from './own-folder.ts';
import { type Cluster, startCluster } from './postgres.ts';
import { serve, serveUnbuilt } from './serve.ts';

const HELP = `bin/start: starts Line True and prints its address

  --port N      port of the web address (default 4173)
  --host NAME   address to listen on (default 127.0.0.1: this machine only); beyond this machine it needs a password
  --data DIR    folder for database, originals and pictures (default: data in the project's folder)
  --empty       start without the demo jobs
  --set-password  set the password that other machines are asked for: one line on the standard input
  --help        this text
`;

const DEFAULT_DATA = join(ROOT, 'data');

async function firstLine(): Promise<string> {
  if (process.stdin.isTTY) say('The new password, then Enter:');
  for await (const line of createInterface({ input: process.stdin })) return line;
  return '';
}

const say = (text: string): void => {
  process.stdout.write(`${text}\n`);
};

async function start(): Promise<void> {
  const { values } = parseArgs({
    options: {
      port: { type: 'string', default: '4173' },
      host: { type: 'string', default: '127.0.0.1' },
      data: { type: 'string', default: DEFAULT_DATA },
      empty: { type: 'boolean', default: false },
      // For its developers: unbuilt, every change shows at once.
      dev: { type: 'boolean', default: false },
      'set-password': { type: 'boolean', default: false },
      help: { type: 'boolean', short: 'h', default: false }
    }
  });
  if (values.help) {
    process.stdout.write(HELP);
    return;
  }
  const port = Number(values.port);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Error(`--port takes a number from 1 to 65535, not "${values.port}".`);
  const data = resolve(values.data);
  const { host } = values;
  if (values['set-password']) {
    mkdirSync(data, { recursive: true });
    await setPassword(data, await firstLine());
    say('The password is set.');
    return;
  }
  if (!isLoopback(host)) {
    if (!hasPassword(data))
      throw new Error(
        `On ${host} other machines can reach Line True: it needs a password first. Run bin/start --set-password${values.data === DEFAULT_DATA ? '' : ` --data ${values.data}`}, then start it again.`
      );
    process.env.LINE_TRUE_LOCKED = data;
  }
  const address = `http://${host === '0.0.0.0' || host === '::' ? '127.0.0.1' : host}:${port}`;
  const giveUpFolder = ownFolder(data, address);
  process.once('exit', giveUpFolder);
  let cluster: Cluster | null = null;
  let server: Awaited<ReturnType<typeof serve>> | null = null;
  let stopping = false;
  const stop = async (code: number): Promise<void> => {
    if (stopping) return;
    stopping = true;
    server?.close();
    server?.closeAllConnections();
    if (server) {
      // The app listens for this and closes its queue, threads and connections.
      const closed = new Promise((done) => process.once('line-true:closed', done));
      process.emit('line-true:close' as never);
      await Promise.race([closed, new Promise((done) => setTimeout(done, 8000))]);
    }
    await cluster?.stop();
    process.exit(code);
  };
  process.on('SIGINT', () => void stop(0));
  process.on('SIGTERM', () => void stop(0));
  try {
    cluster = await startCluster(data, say);
    process.env.DATABASE_URL = cluster.url;
    process.env.LINE_TRUE_DATA = data;
    if (!values.dev) buildApp(say);
    server = values.dev ? await serveUnbuilt(host, port) : await serve(host, port);
    say(`\nLine True is ready: ${address}\nCtrl-C stops it.`);
    if (!values.empty)
      addDemo(address, data).catch((error: Error) => {
        // The app goes on without; the next start tries again.
        if (!stopping) say(error.message);
      });
  } catch (error) {
    process.stderr.write(`bin/start: ${(error as Error).message}\n`);
    await stop(1);
  }
}

// A fault in one piece of work must not end what all others are in.
process.on('unhandledRejection', (error) => console.error('fault:', error));

start().catch((error: Error) => {
  process.stderr.write(`bin/start: ${error.message}\n`);
  process.exitCode = 2;
});
