/** Answers that go on: server-sent events (HTML Living Standard, 9.2) of what has changed. */
import type { Context } from '$server/context.ts';
import type { Notice } from '$server/notices/notices.ts';

/** Milliseconds between two events of one stream: changes meanwhile come together. */
const EVERY = 200;
/** Milliseconds after which a silent stream says that it is still there. */
const ALIVE = 15_000;

export interface EventSource {
  /** Whether a notice is about what the stream tells. */
  concerns(notice: Notice): boolean;
  /** What is told after such notices; null: everything, at the beginning or after some may have been missed. */
  read(notices: readonly Notice[] | null): Promise<unknown>;
}

/** Ids of what has changed, where every notice names one; null: everything may have. */
export const changedIds = (notices: readonly Notice[] | null, of: keyof Notice): string[] | null =>
  notices?.every((notice) => notice[of]) ? notices.map((notice) => notice[of]!) : null;

export function eventStream({ notices }: Context, { concerns, read }: EventSource): Response {
  let close = (): void => {};
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const encoder = new TextEncoder();
      let waiting: Notice[] | null = null;
      let timer: NodeJS.Timeout | undefined;
      let telling = false;
      const send = (text: string): void => controller.enqueue(encoder.encode(text));
      const alive = setInterval(() => send(': still here\n\n'), ALIVE);
      const deaf = notices.listen((notice) => {
        if (notice !== null && !concerns(notice)) return;
        if (notice === null) waiting = null;
        else if (timer || telling) waiting?.push(notice);
        else waiting = [notice];
        timer ??= setTimeout(() => void tell(), EVERY);
      });
      let closed = false;
      close = () => {
        closed = true;
        clearInterval(alive);
        clearTimeout(timer);
        deaf();
      };
      async function tell(): Promise<void> {
        const about = waiting;
        waiting = [];
        timer = undefined;
        telling = true;
        try {
          send(`data: ${JSON.stringify(await read(about))}\n\n`);
        } catch {
          // The page asks anew, and then for everything; one that left meanwhile has closed the stream itself.
          if (!closed) controller.close();
          close();
          return;
        }
        telling = false;
        if (waiting === null || waiting.length > 0) timer ??= setTimeout(() => void tell(), EVERY);
      }
      void tell();
    },
    cancel: () => close()
  });
  return new Response(body, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
  });
}
