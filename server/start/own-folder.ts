/** A data folder has one owner: the bin/start that runs on it. A second one is told so before it touches anything. */
import { linkSync, readFileSync, renameSync, rmSync, writeFileSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';

interface Owner {
  pid: number;
  /** When the process began, as the system counts: the number alone may be another's by now. */
  began: string | null;
  address: string;
}

/** Start time of a process (proc(5), field 22 of stat); null where the system does not tell, or there is none. */
function beganAt(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19];
  } catch {
    return null;
  }
}

function isAlive({ pid, began }: Owner): boolean {
  try {
    process.kill(pid, 0);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EPERM') return false;
  }
  return began === null || beganAt(pid) === began;
}

function ownerIn(file: string): Owner | null {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Owner;
  } catch {
    return null;
  }
}

/** Takes a data folder; throws when it has an owner. Returns what gives it up again. */
export function ownFolder(data: string, address: string): () => void {
  mkdirSync(data, { recursive: true });
  const file = join(data, 'owner.json');
  const own = `${file}.${process.pid}`;
  writeFileSync(
    own,
    JSON.stringify({ pid: process.pid, began: beganAt(process.pid), address } satisfies Owner)
  );
  try {
    for (;;) {
      try {
        // A link is made whole or not at all, and never over another.
        linkSync(own, file);
        break;
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      }
      const owner = ownerIn(file);
      if (owner && isAlive(owner))
        throw new Error(
          `Line True runs on ${data} already, at ${owner.address}. Open that address, stop it first, or name another folder with --data.`
        );
      // Left behind by a start that was killed. Of two that find it, one moves it away.
      try {
        renameSync(file, `${own}.left`);
        rmSync(`${own}.left`, { force: true });
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
      }
    }
  } finally {
    rmSync(own, { force: true });
  }
  return () => {
    if (ownerIn(file)?.pid === process.pid) rmSync(file, { force: true });
  };
}
