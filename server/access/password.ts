/** One password for the studio, where Line True can be reached from other machines: hashed (scrypt, RFC 7914), and asked once. */
import { createHmac, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { UserError } from '../user-error.ts';

const derive = promisify(scrypt) as (text: string, salt: Buffer, length: number) => Promise<Buffer>;
const LENGTH = 32;
const SHORTEST = 8;
/** Days that a browser is known for. */
const DAYS = 30;

interface Kept {
  salt: string;
  hash: string;
  /** Signs what browsers are given; new with every password, so that an old one's browsers are asked again. */
  secret: string;
}

const fileIn = (data: string): string => join(data, 'password.json');
const read = async (data: string): Promise<Kept> => JSON.parse(await readFile(fileIn(data), 'utf8')) as Kept;

export const hasPassword = (data: string): boolean => existsSync(fileIn(data));

export async function setPassword(data: string, password: string): Promise<void> {
  if (password.length < SHORTEST)
    throw new UserError(`The password is too short: take at least ${SHORTEST} characters.`);
  const salt = randomBytes(16);
  const kept: Kept = {
    salt: salt.toString('hex'),
    hash: (await derive(password, salt, LENGTH)).toString('hex'),
    secret: randomBytes(32).toString('hex')
  };
  await writeFile(fileIn(data), JSON.stringify(kept), { mode: 0o600 });
}

export async function isPassword(data: string, password: string): Promise<boolean> {
  const { salt, hash } = await read(data);
  return timingSafeEqual(await derive(password, Buffer.from(salt, 'hex'), LENGTH), Buffer.from(hash, 'hex'));
}

const sign = (until: string, secret: string): string =>
  createHmac('sha256', secret).update(until).digest('hex');

/** What a browser is given after the password: until when it is known, signed. */
export async function newPass(data: string, now = Date.now()): Promise<string> {
  const until = String(now + DAYS * 86_400_000);
  return `${until}.${sign(until, (await read(data)).secret)}`;
}

export async function isPass(data: string, pass: string | undefined, now = Date.now()): Promise<boolean> {
  const [until = '', signature = ''] = (pass ?? '').split('.');
  const wanted = Buffer.from(sign(until, (await read(data)).secret));
  const given = Buffer.from(signature);
  return given.length === wanted.length && timingSafeEqual(given, wanted) && Number(until) > now;
}

export const PASS_SECONDS = DAYS * 86_400;
