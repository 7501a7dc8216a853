/** The built app behind plain HTTP, with the headers that shared memory in the browser asks for on every file. */
import { type Server, createServer } from 'node:http';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ROOT } from '../paths.ts';

type Handler = (request: unknown, response: unknown, next: () => void) => void;

export async function serve(host: string, port: number): Promise<Server> {
  // Read by the handler when it is loaded. Uploads have a limit of their own.
  process.env.BODY_SIZE_LIMIT = 'Infinity';
  const { handler } = (await import(pathToFileURL(join(ROOT, 'build/handler.js')).href)) as {
    handler: Handler;
  };
  const server = createServer((request, response) => {
    response.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
    response.setHeader('Cross-Origin-Embedder-Policy', 'require-corp');
    response.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
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
