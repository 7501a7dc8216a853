/** What handlers and routes are given of a running Line True; only declared here, so that nothing that uses it is needed for it. */
import type { LimitFunction } from 'p-limit';
import type { Pool as Database } from 'pg';
import type { Notices } from './notices/notices.ts';
import type { Parser } from './parse/parser.ts';
import type { Pool } from './render/pool.ts';
import type { Enqueue } from './work/engine.ts';

export interface Context {
  db: Database;
  /** Threads that render, and processes that read files. */
  pool: Pool;
  /** A thread that parses files from elsewhere. */
  parser: Parser;
  /** Folder of originals and what is derived from them. */
  data: string;
  /** Folder of the jobs' delivery folders. */
  deliveries: string;
  /** Asks for work, to be done by this process or another. */
  enqueue: Enqueue;
  /** Tells every process, and the pages that they serve, of what has changed. */
  notices: Notices;
  /** Name of this machine, for how long things take on it. */
  machine: string;
  /** Lets one frame of all deliveries at a time give out its pictures. */
  deliveryTurn: LimitFunction;
}
