/** Adding many files to a job: two at a time, each with its progress, each error on its own. */
import { call } from '$lib/call.ts';
import { sendFile } from '$lib/send-file.ts';
import { framesOfRecipe, isRecipeFile } from './recipe-files.ts';

export interface Upload {
  key: number;
  name: string;
  bytes: number;
  sent: number;
  state: 'waiting' | 'sending' | 'added' | 'known' | 'taken' | 'failed';
  error: string;
}

const AT_ONCE = 2;

const send = (
  jobId: string,
  file: File,
  more: boolean,
  progress: (sent: number) => void
): Promise<{ known?: boolean }> =>
  sendFile(
    `/api/jobs/${jobId}/frames?name=${encodeURIComponent(file.name)}${more ? '&more' : ''}`,
    file,
    progress
  );

export function createUploads(jobId: string) {
  const list = $state<Upload[]>([]);
  const queue: { upload: Upload; file: File }[] = [];
  let active = 0;
  let counter = 0;

  const recipes: { upload: Upload; file: File }[] = [];
  async function takeRecipes(): Promise<void> {
    for (let next = recipes.shift(); next; next = recipes.shift()) {
      const { upload, file } = next;
      upload.state = 'sending';
      try {
        const { frames } = await call<{ frames: { id: string; name: string }[] }>(`/api/jobs/${jobId}`);
        const own = framesOfRecipe(file.name, frames);
        if (own.length === 0) throw new Error('No photograph of this job has its name.');
        for (const { id } of own)
          await sendFile(`/api/frames/${id}/recipe`, file, (sent) => (upload.sent = sent));
        upload.state = 'taken';
      } catch (error) {
        upload.state = 'failed';
        upload.error = (error as Error).message;
      }
    }
  }

  async function work(): Promise<void> {
    active++;
    for (let next = queue.shift(); next; next = queue.shift()) {
      const { upload, file } = next;
      upload.state = 'sending';
      try {
        const { known } = await send(jobId, file, queue.length > 0, (sent) => (upload.sent = sent));
        upload.state = known ? 'known' : 'added';
      } catch (error) {
        upload.state = 'failed';
        upload.error = (error as Error).message;
      }
    }
    active--;
    // Recipes are for photographs that are there.
    if (active === 0) await takeRecipes();
  }

  return {
    list,
    add(files: Iterable<File>): void {
      for (const file of files) {
        // Hidden files of the operating system are no frames.
        if (file.name.startsWith('.')) continue;
        list.push({
          key: ++counter,
          name: file.name,
          bytes: file.size,
          sent: 0,
          state: 'waiting',
          error: ''
        });
        const waiting = { upload: list[list.length - 1], file };
        (isRecipeFile(file.name) ? recipes : queue).push(waiting);
      }
      if (queue.length === 0 && active === 0) void takeRecipes();
      while (active < AT_ONCE && queue.length > 0) void work();
    },
    clear(): void {
      for (let i = list.length - 1; i >= 0; i--)
        if (list[i].state !== 'waiting' && list[i].state !== 'sending') list.splice(i, 1);
    }
  };
}

/** Files that wait for the page of their job, which has just been made for them. */
let waiting: { job: string; files: File[] } | null = null;

export function leaveWaiting(job: string, files: File[]): void {
  waiting = { job, files };
}

export function takeWaiting(job: string): File[] {
  const files = waiting?.job === job ? waiting.files : [];
  waiting = null;
  return files;
}
