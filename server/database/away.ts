/** The database may stop and start again under a running app: that is waited for, and nothing is lost by it. */
import { setTimeout as pause } from 'node:timers/promises';
import type { Pool } from 'pg';

const CODES = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  // Shutting down, crashed, starting up (SQLSTATE class 57), and the class of lost connections.
  '57P01',
  '57P02',
  '57P03',
  '08000',
  '08003',
  '08006'
]);

/** Whether an error only says that the database cannot be reached at present. */
export function isDatabaseAway(error: unknown): boolean {
  const { code, message = '' } = error as { code?: string; message?: string };
  return (
    CODES.has(code ?? '') || /Connection terminated|connection timeout|Client has encountered/i.test(message)
  );
}

export const AWAY =
  'The database is away at the moment. Line True waits for it and goes on by itself; nothing is lost.';

/** Resolves as soon as the database answers. */
export async function untilDatabaseAnswers(db: Pool, say: (text: string) => void): Promise<void> {
  for (let told = false; ; told = true) {
    try {
      await db.query('select 1');
      return;
    } catch (error) {
      if (!isDatabaseAway(error)) throw error;
      if (!told) say(AWAY);
      await pause(1000);
    }
  }
}
