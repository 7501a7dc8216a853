/** The browser's end of an event stream. It connects again by itself; the server then tells everything anew. */
export function hearEvents<T>(
  path: string,
  hear: (told: T) => void,
  lost: (isLost: boolean) => void
): () => void {
  const source = new EventSource(path);
  source.onmessage = ({ data }: MessageEvent<string>) => {
    lost(false);
    hear(JSON.parse(data) as T);
  };
  let timer: ReturnType<typeof setTimeout> | undefined;
  let close = (): void => source.close();
  source.onerror = () => {
    lost(true);
    // After an answer that is no stream the browser does not ask again by itself.
    if (source.readyState !== EventSource.CLOSED || timer) return;
    timer = setTimeout(() => (close = hearEvents(path, hear, lost)), 2000);
  };
  return () => {
    clearTimeout(timer);
    close();
  };
}

export const LOST = 'Line True cannot be reached. It is tried again until it can.';
