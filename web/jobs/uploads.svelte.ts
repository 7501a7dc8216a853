/** Adding many files to a job: two at a time, each with its progress, each error on its own. */
export interface Upload {
  key: number;
  name: string;
  bytes: number;
  sent: number;
  state: 'waiting' | 'sending' | 'added' | 'known' | 'failed';
  error: string;
}

const AT_ONCE = 2;

function send(
  jobId: string,
  file: File,
  more: boolean,
  progress: (sent: number) => void
): Promise<{ known: boolean }> {
  return new Promise((resolve, reject) => {
    // fetch cannot tell how much has been sent.
    const request = new XMLHttpRequest();
    request.upload.onprogress = (event) => progress(event.loaded);
    request.onload = () => {
      let body: { error?: string; known?: boolean } = {};
      try {
        body = JSON.parse(request.responseText) as typeof body;
      } catch {
        body = { error: `The server answered ${request.status}.` };
      }
      if (request.status < 300) resolve({ known: Boolean(body.known) });
      else reject(new Error(body.error ?? `The server answered ${request.status}.`));
    };
    request.onerror = () => reject(new Error('The connection broke. Add the file again.'));
    const query = `name=${encodeURIComponent(file.name)}${more ? '&more' : ''}`;
    request.open('POST', `/api/jobs/${jobId}/frames?${query}`);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.send(file);
  });
}

export function createUploads(jobId: string) {
  const list = $state<Upload[]>([]);
  const queue: { upload: Upload; file: File }[] = [];
  let active = 0;
  let counter = 0;

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
        queue.push({ upload: list[list.length - 1], file });
      }
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
