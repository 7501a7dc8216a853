/** Calls of the server from the browser: JSON, or a file as it is, in and JSON out, errors in the server's words. */
export class CallError extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly body: unknown
  ) {
    super(message);
  }

  /** What of a form it is about. */
  get field(): string | undefined {
    return (this.body as { field?: string } | null)?.field;
  }
}

/** What went wrong with a form: in words, and beside which field they stand. */
export interface FormFault {
  message: string;
  field?: string;
}

export const faultOf = (reason: unknown): FormFault => ({
  message: (reason as Error).message,
  field: reason instanceof CallError ? reason.field : undefined
});

/** What goes along with a request. */
function sent(body: unknown): RequestInit {
  if (body === undefined) return {};
  const [type, content] =
    body instanceof Blob ? ['application/octet-stream', body] : ['application/json', JSON.stringify(body)];
  return { headers: { 'content-type': type }, body: content };
}

export async function call<T>(path: string, options: { method?: string; body?: unknown } = {}): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: options.method ?? 'GET',
      ...sent(options.body)
    });
  } catch {
    throw new CallError('Line True cannot be reached. Check that it is still running.', 0, null);
  }
  const body = (await response.json().catch(() => null)) as { error?: string } | null;
  if (!response.ok)
    throw new CallError(body?.error ?? `The server answered ${response.status}.`, response.status, body);
  return body as T;
}
