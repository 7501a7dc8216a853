/**
 * The workers as a crew: what each has in hand, and whether it is still alive. Tasks that are answered are answered in the
 * order that they were given in, so that a long question is not taken for a dead worker, nor a dead worker for a long question.
 */
import type { AnsweredTask, WorkerAnswer, WorkerTask } from './messages.ts';
import type { Workers, WorkersListener } from './workers.ts';

export interface Crew {
  readonly count: number;
  /** Whether the workers see each other's memory. */
  readonly shared: boolean;
  /** Tells a worker something that holds it up for no time, or that it does beside its work. */
  tell(worker: number, task: Exclude<WorkerTask, AnsweredTask>): void;
  tellAll(task: Exclude<WorkerTask, AnsweredTask>): void;
  /** Gives a worker a task that it answers; `answered` is called by its answer, unless the crew ends before. */
  give<T extends AnsweredTask>(worker: number, task: T, answered: (answer: AnswerTo<T>) => void): void;
  /** Whether a worker has nothing in hand. */
  isFree(worker: number): boolean;
  end(): void;
}

export type AnswerTo<T extends AnsweredTask> = Extract<
  WorkerAnswer,
  { kind: { tile: 'tile'; make: 'made'; ask: 'answer' }[T['kind']] }
>;

export interface CrewListener {
  /** What a worker says by itself. */
  said(worker: number, answer: Exclude<WorkerAnswer, { kind: 'tile' | 'made' | 'answer' }>): void;
  /** A worker has answered, and may have nothing in hand any more. */
  free(): void;
  /** A worker died, or does not answer any more: the crew has ended. */
  died(): void;
}

/** Milliseconds after which a worker with a task in hand counts as dead. */
const PATIENCE: Readonly<Record<AnsweredTask['kind'], number>> = { tile: 10_000, make: 60_000, ask: 120_000 };
/** Milliseconds between two looks at what the workers have in hand. */
const LOOK = 1000;

interface InHand {
  kind: AnsweredTask['kind'];
  answered: (answer: never) => void;
}

/** `start` may tell of a death while it starts the workers; it throws where there is no memory. */
export function createCrew(start: (listener: WorkersListener) => Workers, listener: CrewListener): Crew {
  let ended = false;
  const inHand: InHand[][] = [];
  /** When each worker began with the first task that it has in hand. */
  const since: number[] = [];

  function end(): void {
    if (ended) return;
    ended = true;
    clearInterval(watch);
    workers.end();
  }

  function die(): void {
    if (ended) return;
    end();
    listener.died();
  }

  function heard(worker: number, answer: WorkerAnswer): void {
    if (ended) return;
    if (answer.kind !== 'tile' && answer.kind !== 'made' && answer.kind !== 'answer')
      return listener.said(worker, answer);
    since[worker] = performance.now();
    const task = inHand[worker].shift();
    // The kinds of answers follow from the order of the tasks.
    task?.answered(answer as never);
    listener.free();
  }

  const workers = start({ heard, died: die });
  for (let worker = 0; worker < workers.count; worker++) inHand.push([]);
  const watch = setInterval(() => {
    const now = performance.now();
    if (inHand.some((tasks, i) => tasks.length > 0 && now - since[i] > PATIENCE[tasks[0].kind])) die();
  }, LOOK);

  const tell: Crew['tell'] = (worker, task) => {
    if (!ended) workers.tell(worker, task);
  };
  return {
    count: workers.count,
    shared: workers.shared,
    tell,
    tellAll(task) {
      for (let worker = 0; worker < workers.count; worker++) tell(worker, task);
    },
    give(worker, task, answered) {
      if (ended) return;
      if (inHand[worker].length === 0) since[worker] = performance.now();
      inHand[worker].push({ kind: task.kind, answered });
      workers.tell(worker, task);
    },
    isFree: (worker) => inHand[worker].length === 0,
    end
  };
}
