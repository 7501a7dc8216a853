/**
 * Notices of changes, through the database (PostgreSQL's LISTEN and NOTIFY): every process that shares it hears them, and
 * hands them to the pages that it serves.
 */
import { EventEmitter } from 'node:events';
import pg from 'pg';

/** What has changed: rows by their ids. */
export interface Notice {
  job?: string;
  frame?: string;
  delivery?: string;
  /** A picture of the delivery; without one, all of it. */
  item?: string;
}

export interface Notices {
  /** Never fails: a page that misses a notice is behind, and nothing else is wrong. */
  tell(notice: Notice): Promise<void>;
  /** Hears notices until the returned function is called. `null`: some may have been missed. */
  listen(hear: (notice: Notice | null) => void): () => void;
  close(): Promise<void>;
}

const CHANNEL = 'line_true';
const RECONNECT = 1000;

export function openNotices(db: pg.Pool, connectionString: string): Notices {
  const ears = new EventEmitter().setMaxListeners(0);
  let client: pg.Client | null = null;
  let timer: NodeJS.Timeout | undefined;
  let closed = false;

  async function connect(): Promise<void> {
    const next = new pg.Client({ connectionString, keepAlive: true });
    const lost = (): void => {
      if (client !== next || closed) return;
      client = null;
      timer = setTimeout(() => void connect(), RECONNECT);
    };
    client = next;
    next.on('error', lost);
    next.on('end', lost);
    next.on('notification', ({ payload }) => ears.emit('notice', JSON.parse(payload ?? '{}')));
    try {
      await next.connect();
      await next.query(`listen ${CHANNEL}`);
      ears.emit('notice', null);
    } catch {
      lost();
    }
  }
  void connect();

  return {
    async tell(notice) {
      await db.query('select pg_notify($1, $2)', [CHANNEL, JSON.stringify(notice)]).catch(() => {});
    },
    listen(hear) {
      ears.on('notice', hear);
      return () => void ears.off('notice', hear);
    },
    async close() {
      closed = true;
      clearTimeout(timer);
      await client?.end().catch(() => {});
    }
  };
}
