// Threads do not inherit the TypeScript loader of the main thread: it is registered here, then the tasks come in.
import { register } from 'tsx/esm/api';

register();
export const { chart, develop, edges, fill, flat, lines, reduce, reduceStored, render, sharpenRows, store } =
  await import('./worker.ts');
