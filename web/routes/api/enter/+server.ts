import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { countAttempts } from '$server/access/attempts.ts';
import { PASS_SECONDS, isPassword, newPass } from '$server/access/password.ts';
import { UserError } from '$server/user-error.ts';
import type { RequestHandler } from './$types';

const attempts = countAttempts();

/** Takes the studio's password once, and lets the browser in from then on. */
export const POST: RequestHandler = ({ request, cookies, getClientAddress }) =>
  answer(async () => {
    const locked = process.env.LINE_TRUE_LOCKED;
    if (!locked) return json({});
    const address = getClientAddress();
    if (!(await attempts.allow(address)))
      return json({ error: 'Too many tries. Wait a minute, and try again.' }, { status: 429 });
    const { password } = (await readJson(request)) as { password?: unknown };
    if (typeof password !== 'string' || !(await isPassword(locked, password)))
      throw new UserError('This is not the password.');
    await attempts.forget(address);
    cookies.set('pass', await newPass(locked), {
      path: '/',
      httpOnly: true,
      sameSite: 'strict',
      // Studios' own networks have no certificates as a rule.
      secure: false,
      maxAge: PASS_SECONDS
    });
    return json({});
  });
