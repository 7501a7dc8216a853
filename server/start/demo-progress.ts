/** How many of the demo photographs are taken, kept where every process of the app finds it. */
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

export interface DemoProgress {
  done: number;
  total: number;
}

const pathOf = (data: string): string => join(data, 'demo-progress.json');

/** Null: all of them are there. */
export function sayDemoProgress(data: string, progress: DemoProgress | null): void {
  mkdirSync(data, { recursive: true });
  if (progress) writeFileSync(pathOf(data), JSON.stringify(progress));
  else rmSync(pathOf(data), { force: true });
}

export function demoProgress(data: string): DemoProgress | null {
  try {
    return JSON.parse(readFileSync(pathOf(data), 'utf8')) as DemoProgress;
  } catch {
    return null;
  }
}
