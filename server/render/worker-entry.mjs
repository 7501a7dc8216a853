// Threads do not inherit the TypeScript loader of the main thread: it is registered here, then the tasks come in.
import { register } from 'tsx/esm/api';

register();
export const { chart, decode, develop, edges, flat, lines, reduce, reduceLinear, render, sharpenRows } =
  await import('./worker.ts');
