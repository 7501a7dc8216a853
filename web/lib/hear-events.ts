/**
 * The browser's end of an event stream. It connects again by itself, and the server then tells everything anew. A page that
 * is out of sight lets go of its stream: browsers have few connections to one server for all of its pages.
 */
export function hearEvents<T>(
  path: string,
  hear: (told: T) => void,
  lost: (isLost: boolean) => void
): () => void {
  let source: EventSource | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;

  function open(): void {
    clearTimeout(timer);
    source?.close();
    source = new EventSource(path);
    source.onmessage = ({ data }: MessageEvent<string>) => {
      lost(false);
      hear(JSON.parse(data) as T);
    };
    source.onerror = () => {
      lost(true);
      // After an answer that is no stream the browser does not ask again by itself.
      if (source?.readyState === EventSource.CLOSED) timer = setTimeout(open, AGAIN);
    };
  }
  function close(): void {
    clearTimeout(timer);
    source?.close();
    source = null;
  }
  const seen = (): void => {
    if (document.hidden) close();
    else if (!source) open();
  };
  seen();
  document.addEventListener('visibilitychange', seen);
  return () => {
    document.removeEventListener('visibilitychange', seen);
    close();
  };
}

/** Milliseconds before a stream that was refused is asked for again. */
const AGAIN = 2000;

export const LOST = 'Line True cannot be reached. It is tried again until it can.';
