/** Proxies of frames, fetched ahead for those that may be opened next. */

const fetched = new Map<string, Promise<ArrayBuffer | null>>();

async function fetchProxy(frameId: string): Promise<ArrayBuffer | null> {
  const response = await fetch(`/api/frames/${frameId}/proxy`).catch(() => null);
  return response?.ok ? response.arrayBuffer() : null;
}

/** Fetches the proxies of some frames, and forgets all others. */
export function proxyAhead(frames: readonly string[]): void {
  for (const frameId of fetched.keys()) if (!frames.includes(frameId)) fetched.delete(frameId);
  for (const frameId of frames) if (!fetched.has(frameId)) fetched.set(frameId, fetchProxy(frameId));
}

/** The bytes of a proxy; null when it cannot be had. */
export async function proxyBytes(frameId: string): Promise<ArrayBuffer | null> {
  const ahead = await fetched.get(frameId);
  return ahead ?? fetchProxy(frameId);
}
