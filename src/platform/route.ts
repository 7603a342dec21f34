import 'server-only';
import { NextResponse } from 'next/server';
import type { z } from 'zod';
import type { Endpoint, Ids } from './endpoint';
import { UserError } from './errors';
import { failureOf } from './failure';

const MOST_BODY_BYTES = 256 * 1024;

export function failureResponse(error: unknown): NextResponse {
  const { status, message } = failureOf(error);
  return NextResponse.json(
    { error: message },
    { status, headers: { 'cache-control': 'no-store' } },
  );
}

/** Refuses requests that another site's page sends in a visitor's name. */
export function requireSameOrigin(request: Request): void {
  const origin = request.headers.get('origin');
  const host = request.headers.get('x-forwarded-host') ?? request.headers.get('host');
  const site = request.headers.get('sec-fetch-site');
  const foreign = origin !== null && (!URL.canParse(origin) || new URL(origin).host !== host);
  if (foreign || (site !== null && site !== 'same-origin' && site !== 'none')) {
    throw new UserError(403, 'This request came from another page and was refused.');
  }
}

/** A body's text, counted while it arrives: what is longer than promised or allowed is not taken in. */
async function textOf(request: Request, mostBytes: number): Promise<string> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  for (;;) {
    const { done, value } = (await reader?.read()) ?? { done: true };
    if (done || !value) break;
    length += value.length;
    if (length > mostBytes) {
      await reader?.cancel().catch(() => undefined);
      throw new UserError(413, 'This is too much text; shorten it and send it again.');
    }
    pieces.push(value);
  }
  return new TextDecoder().decode(Buffer.concat(pieces));
}

/** Reads a JSON body once, checked against its shape. */
async function readBody<T>(
  request: Request,
  shape: z.ZodType<T>,
  mostBytes = MOST_BODY_BYTES,
): Promise<T> {
  const text = await textOf(request, mostBytes);
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new UserError(400, 'The request cannot be read.');
  }
  return shape.parse(body);
}

/** What a handler gives: the reply, or nothing where nothing but success is told. */
export type Outcome<Reply> = Reply | (Record<string, never> extends Reply ? void : never);

export type Handler<Path extends string> = (
  request: Request,
  context: { params: Promise<Ids<Path>> },
) => Promise<NextResponse>;

/**
 * The route of an endpoint: same-origin for changes, one sentence for every failure. The reply is held to its
 * shape; what that does not name is not sent.
 * @param idOf checks what stands in a place of the address
 * @param work asks who is there first, and only then reads ids and body
 */
export function routeOf<Path extends string, Sent, Taken, Reply>(
  { method, path, body, reply, mostBytes }: Endpoint<Path, Sent, Taken, Reply>,
  idOf: (text: string) => string,
  work: (asked: {
    ids: () => Promise<Ids<Path>>;
    read: () => Promise<Taken>;
    request: Request;
  }) => Promise<Outcome<Reply>>,
): Handler<Path> {
  return async (request, { params }) => {
    try {
      if (method !== 'GET') requireSameOrigin(request);
      const ids = async () => {
        // An address without names has none to give.
        const given = Object.entries<string>((await params) ?? {});
        return Object.fromEntries(given.map(([name, text]) => [name, idOf(text)])) as Ids<Path>;
      };
      const read = async () =>
        body === null ? (undefined as Taken) : readBody(request, body, mostBytes);
      const told = reply.safeParse((await work({ ids, read, request })) ?? {});
      if (!told.success) throw new Error(`${method} ${path} tells what it does not promise`);
      return NextResponse.json(told.data, { headers: { 'cache-control': 'no-store' } });
    } catch (error) {
      return failureResponse(error);
    }
  };
}
