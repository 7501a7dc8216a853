import type { Handle, ServerInit } from '@sveltejs/kit';
import { closeApp, getApp } from '$server/app.ts';

export const init: ServerInit = async () => {
  await getApp();
  process.once('line-true:close' as never, () => {
    void closeApp().finally(() => process.emit('line-true:closed' as never));
  });
};

export const handle: Handle = async ({ event, resolve }) => {
  const response = await resolve(event);
  // Cross-origin isolation, which shared memory in the browser asks for.
  response.headers.set('Cross-Origin-Opener-Policy', 'same-origin');
  response.headers.set('Cross-Origin-Embedder-Policy', 'require-corp');
  return response;
};
