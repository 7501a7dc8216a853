/**
 * The workers that draw: as many as there are cores where memory can be shared, else one. They stay when another frame is
 * opened. One that dies, or does not answer any more, takes all others with it: what it did to the memory is not known.
 */
import { createMemory } from '$core/picture/kernels/kernels.ts';
import type { WorkerAnswer, WorkerTask } from './messages.ts';

export interface Workers {
  readonly count: number;
  readonly shared: boolean;
  tell(worker: number, task: WorkerTask): void;
  end(): void;
}

export interface WorkersListener {
  heard(worker: number, answer: WorkerAnswer): void;
  died(): void;
}

const MOST = 8;

/** `listener` may be told of a death while the workers are being started. Throws where there is no memory. */
export function startWorkers(listener: WorkersListener): Workers {
  const shared = globalThis.crossOriginIsolated === true;
  const memory = shared ? createMemory() : null;
  const count = shared ? Math.max(1, Math.min(MOST, navigator.hardwareConcurrency || 1)) : 1;
  let ended = false;
  const workers = Array.from({ length: count }, (_, i) => {
    const worker = new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<WorkerAnswer>) => {
      if (!ended) listener.heard(i, data);
    };
    worker.onerror = ({ message }) => {
      console.error('preview:', message);
      if (!ended) listener.died();
    };
    worker.postMessage({ kind: 'start', memory } satisfies WorkerTask);
    return worker;
  });
  return {
    count,
    shared,
    tell: (worker, task) => workers[worker].postMessage(task),
    end() {
      ended = true;
      for (const worker of workers) worker.terminate();
    }
  };
}
