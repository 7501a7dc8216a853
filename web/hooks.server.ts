import { type Handle, type HandleServerError, type ServerInit, json, redirect } from '@sveltejs/kit';
import { isPass } from '$server/access/password.ts';
import { closeApp, getContext } from '$server/app.ts';
import { APPEARANCE_COOKIE, readAppearance } from '$lib/appearance.ts';
import { isPlainText } from '$server/documents/plain-text.ts';
import { watchHandOvers } from '$server/hand-over/watch-hand-overs.ts';
import { AWAY, isDatabaseAway } from '$server/database/away.ts';

export const init: ServerInit = async () => {
  const stopWatching = watchHandOvers(await getContext());
  process.once('line-true:close' as never, () => {
    void stopWatching()
      .then(closeApp)
      .finally(() => process.emit('line-true:closed' as never));
  });
};

/** Open to those who have not said the password yet. */
const OPEN = ['/enter', '/api/enter'];

/** Whether an address holds text alone: nothing that the database could not take. */
const isPlainAddress = ({ url, params }: { url: URL; params: Partial<Record<string, string>> }): boolean =>
  [...url.searchParams.entries()].flat().every(isPlainText) &&
  Object.values(params).every((value) => value === undefined || isPlainText(value));

export const handle: Handle = async ({ event, resolve }) => {
  if (!isPlainAddress(event))
    return json({ error: 'This address holds characters that are no text.' }, { status: 400 });
  // Set by bin/start where other machines can reach it.
  const locked = process.env.LINE_TRUE_LOCKED;
  if (locked && !OPEN.includes(event.url.pathname) && !(await isPass(locked, event.cookies.get('pass')))) {
    if (event.url.pathname.startsWith('/api/'))
      return json({ error: 'The password is asked for first: reload the page.' }, { status: 401 });
    redirect(303, `/enter?to=${encodeURIComponent(event.url.pathname)}`);
  }
  const appearance = readAppearance(event.cookies.get(APPEARANCE_COOKIE));
  return resolve(event, {
    transformPageChunk: ({ html }) =>
      html.replace('%theme%', appearance.theme).replace('%surround%', appearance.surround)
  });
};

export const handleError: HandleServerError = ({ error, status }) => {
  if (isDatabaseAway(error)) return { message: AWAY, away: true };
  if (status !== 404) console.error(error);
  return { message: status === 404 ? 'There is no such page.' : 'Something went wrong in Line True.' };
};
