/** The bench's end of the preview worker: one picture at a time per target, and always the newest. */
import type { Answers, AskRequest, DrawRequest, OpenRequest, WorkerAnswer } from './messages.ts';

export type Drawn = Extract<WorkerAnswer, { kind: 'drawn' }>;
type Wanted = Omit<DrawRequest, 'kind' | 'number'>;

type Question = AskRequest extends infer Each
  ? Each extends AskRequest
    ? Omit<Each, 'number'>
    : never
  : never;

export interface Preview {
  draw(wanted: Wanted): void;
  /** Asks about the picture itself. */
  ask<K extends keyof Answers>(question: Extract<Question, { kind: K }>): Promise<Answers[K]>;
  close(): void;
}

export interface PreviewListeners {
  opened(): void;
  failed(message: string): void;
  fetching(waiting: boolean): void;
  drawn(picture: Drawn): void;
}

export function openPreview(frame: Omit<OpenRequest, 'kind'>, listeners: PreviewListeners): Preview {
  const worker = new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module' });
  const waiting: Partial<Record<DrawRequest['target'], Wanted>> = {};
  const busy: Record<DrawRequest['target'], boolean> = { sheet: false, magnifier: false, small: false };
  let ready = false;
  let number = 0;
  const asked = new Map<number, (answer: never) => void>();
  const send = (target: DrawRequest['target']): void => {
    const wanted = waiting[target];
    if (!wanted || !ready || busy[target]) return;
    delete waiting[target];
    busy[target] = true;
    worker.postMessage({ kind: 'draw', number: ++number, ...wanted } satisfies DrawRequest);
  };
  worker.onmessage = ({ data }: MessageEvent<WorkerAnswer>) => {
    if (data.kind === 'opened') {
      ready = true;
      listeners.opened();
      send('sheet');
    } else if (data.kind === 'failed') listeners.failed(data.message);
    else if (data.kind === 'fetching') listeners.fetching(data.waiting);
    else if (data.kind === 'answer') {
      asked.get(data.number)?.(data.answer as never);
      asked.delete(data.number);
    } else {
      busy[data.target] = false;
      listeners.drawn(data);
      send(data.target);
    }
  };
  worker.onerror = () => listeners.failed('The preview stopped. Reload the page to go on; nothing is lost.');
  worker.postMessage({ kind: 'open', ...frame } satisfies OpenRequest);
  return {
    draw(wanted) {
      waiting[wanted.target] = wanted;
      send(wanted.target);
    },
    ask: (question) =>
      new Promise((resolve) => {
        asked.set(++number, resolve as (answer: never) => void);
        worker.postMessage({ ...question, number });
      }),
    close: () => worker.terminate()
  };
}
