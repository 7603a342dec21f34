import { addressOf, type Endpoint, type Ids } from '@/platform/endpoint';

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

/** A body where the endpoint takes one, and none where not. */
export type Body<Sent> = [Sent] extends [undefined] ? [] : [body: Sent];

/** Asks the server. @throws RequestError (status 0: no connection) */
export async function request<Path extends string, Sent, Taken, Reply>(
  endpoint: Endpoint<Path, Sent, Taken, Reply>,
  ids: Ids<Path>,
  ...[body]: Body<Sent>
): Promise<Reply> {
  return requestAt<Reply>(endpoint.method, addressOf(endpoint, ids), body);
}

/** The same of an address that is written out; what comes back is as its endpoint promises. */
export async function requestAt<Reply>(
  method: string,
  address: string,
  body?: unknown,
): Promise<Reply> {
  let response: Response;
  try {
    response = await fetch(address, {
      method,
      headers: body === undefined ? {} : { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new RequestError(0, UNREACHABLE);
  }
  const content = (await response.json().catch(() => ({}))) as { error?: string };
  if (!response.ok) throw new RequestError(response.status, content.error ?? UNREACHABLE);
  return content as Reply;
}
