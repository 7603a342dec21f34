/** A refusal or failure, in one sentence for people. */
export class RequestError extends Error {
  override name = 'RequestError';

  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

const UNREACHABLE =
  'Zeitbank cannot be reached just now; what you wrote is still here. Try again in a moment.';

/** Sends JSON and returns what comes back. @throws RequestError (status 0: no connection) */
export async function request<T>(method: string, url: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(url, {
      method,
      headers: body === undefined ? {} : { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new RequestError(0, UNREACHABLE);
  }
  const content = (await response.json().catch(() => ({}))) as { error?: string };
  if (!response.ok) throw new RequestError(response.status, content.error ?? UNREACHABLE);
  return content as T;
}
