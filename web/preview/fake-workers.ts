/** Workers for tests: they do nothing by themselves, and answer when and in what order the test says. */
import type { WorkerAnswer, WorkerTask } from './messages.ts';
import type { Workers, WorkersListener } from './workers.ts';

export interface FakeWorkers {
  start(listener: WorkersListener): Workers;
  /** Every task that a worker was given, in order. */
  told: WorkerTask[][];
  /** Tasks of a kind that a worker was given and that were not taken yet; each is taken once. */
  take<K extends WorkerTask['kind']>(worker: number, kind: K): Extract<WorkerTask, { kind: K }>[];
  answer(worker: number, answer: WorkerAnswer): void;
  die(): void;
  ended: boolean;
}

export function fakeWorkers(count = 2, shared = true): FakeWorkers {
  const told: WorkerTask[][] = Array.from({ length: count }, () => []);
  const taken = told.map(() => new Set<WorkerTask>());
  let listener: WorkersListener;
  const fake: FakeWorkers = {
    told,
    ended: false,
    start(given) {
      listener = given;
      return {
        count,
        shared,
        tell: (worker, task) => void told[worker].push(task),
        end: () => void (fake.ended = true)
      };
    },
    take(worker, kind) {
      const found = told[worker].filter((task) => task.kind === kind && !taken[worker].has(task));
      found.forEach((task) => taken[worker].add(task));
      return found as never;
    },
    answer: (worker, answer) => listener.heard(worker, answer),
    die: () => listener.died()
  };
  return fake;
}
