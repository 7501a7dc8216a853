/** The built app behind plain HTTP: only known names are answered, and every file has the headers that it needs. */
import { type Server, createServer } from 'node:http';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { knownHosts, refusal } from '../access/known-host.ts';
import { ROOT } from '../paths.ts';

type Handler = (request: unknown, response: unknown, next: () => void) => void;

const HEADERS = {
  // Cross-origin isolation, which shared memory in the browser asks for.
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
  // Pages set a stricter policy of their own; this one is for what is not a page. Workers compile the kernels.
  'Content-Security-Policy':
    "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; frame-ancestors 'none'",
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'same-origin'
};

export async function serve(host: string, port: number): Promise<Server> {
  // Read by the handler when it is loaded. Bodies have limits of their own.
  process.env.BODY_SIZE_LIMIT = 'Infinity';
  const { handler } = (await import(pathToFileURL(join(ROOT, 'build/handler.js')).href)) as {
    handler: Handler;
  };
  const known = knownHosts(host);
  const server = createServer((request, response) => {
    for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
    const { host: asked, origin, 'sec-fetch-site': site } = request.headers;
    const refused = refusal(
      { method: request.method ?? 'GET', host: asked, origin, site: site as string | undefined },
      known
    );
    if (refused) {
      response.statusCode = 403;
      response.setHeader('content-type', 'application/json');
      response.end(JSON.stringify({ error: refused }));
      return;
    }
    handler(request, response, () => {
      response.statusCode = 404;
      response.end('Not found');
    });
  });
  // Large files over slow disks take longer than the usual limit.
  server.requestTimeout = 0;
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE' ? new Error(`Port ${port} is taken. Choose another with --port.`) : error
      )
    );
    server.listen(port, host, () => resolve());
  });
  return server;
}

/** The app as its sources stand, for its developers; the checks of hosts are those of the development server. */
export async function serveUnbuilt(host: string, port: number): Promise<Server> {
  const { createServer: createDevServer } = await import('vite');
  const vite = await createDevServer({ root: ROOT, server: { host, port, strictPort: true } });
  await vite.listen();
  return vite.httpServer as Server;
}
