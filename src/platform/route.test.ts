import { z } from 'zod';
import { done, endpoint, made } from './endpoint';
import { UserError } from './errors';
import { log } from './log';
import { type Handler, routeOf } from './route';

const idOf = (text: string) => z.uuid('This address is not complete.').parse(text);
const ID = '0b6f4c1e-6a3d-4a8e-9c55-2f6f0d5b7a10';
const SHAPE = z.object({ name: z.string().trim().min(1, 'Write the name.') });
const RENAME = endpoint('PUT', '/api/things/[thingId]', made, SHAPE, 200);

const asked = (body: unknown, headers: Record<string, string> = {}, method = 'PUT') =>
  new Request('http://bank.test/api/things/1', {
    method,
    headers: { host: 'bank.test', origin: 'http://bank.test', ...headers },
    body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
  });

async function told<Path extends string>(
  handler: Handler<Path>,
  request: Request,
  ids: Record<string, string> = { thingId: ID },
) {
  const response = await handler(request, { params: Promise.resolve(ids as never) });
  return { status: response.status, body: (await response.json()) as Record<string, unknown> };
}

const renaming = routeOf(RENAME, idOf, async ({ ids, read }) => {
  const { thingId } = await ids();
  return { id: `${thingId} ${(await read()).name}` };
});

it('gives the work what was asked, checked, and the reply as it was promised', async () => {
  expect(await told(renaming, asked({ name: '  Kern ' }))).toEqual({
    status: 200,
    body: { id: `${ID} Kern` },
  });
});

it.each([
  [
    'an address that is not complete',
    { name: 'x' },
    { thingId: 'x' },
    'This address is not complete.',
  ],
  ['a body of another shape', { name: ' ' }, undefined, 'Write the name.'],
  ['a body that is no JSON', '{', undefined, 'The request cannot be read.'],
])('refuses %s in a sentence', async (_, body, ids, error) => {
  expect(await told(renaming, asked(body), ids)).toEqual({ status: 400, body: { error } });
});

it('does not take in more than the endpoint allows, whatever it says of its length', async () => {
  const long = await told(renaming, asked({ name: 'x'.repeat(400) }));
  expect(long.status).toBe(413);
});

it('refuses what another site’s page sends, before the work is asked', async () => {
  const work = jest.fn(() => Promise.resolve({ id: 'x' }));
  const handler = routeOf(RENAME, idOf, work);
  const others: Record<string, string>[] = [
    { origin: 'http://other.test' },
    { 'sec-fetch-site': 'cross-site' },
  ];
  for (const foreign of others) {
    expect((await told(handler, asked({ name: 'x' }, foreign))).status).toBe(403);
  }
  expect(work).not.toHaveBeenCalled();
});

it('lets the work refuse before ids and body are looked at', async () => {
  const handler = routeOf(RENAME, idOf, () => {
    throw new UserError(401, 'Sign in first.');
  });
  const { status, body } = await told(handler, asked('{'), { thingId: 'odd' });
  expect({ status, body }).toEqual({ status: 401, body: { error: 'Sign in first.' } });
});

it('sends no more than was promised, and nothing that was promised otherwise', async () => {
  const more = { id: 'a', secret: 'b' };
  const chatty = routeOf(RENAME, idOf, () => Promise.resolve(more));
  expect((await told(chatty, asked({ name: 'x' }))).body).toEqual({ id: 'a' });
  const logged = jest.spyOn(log, 'error').mockReturnValue(undefined);
  const wrong = routeOf(RENAME, idOf, () => Promise.resolve({} as { id: string }));
  const { status, body } = await told(wrong, asked({ name: 'x' }));
  expect(status).toBe(500);
  expect(String(body.error)).toContain('Something went wrong here');
  expect(logged).toHaveBeenCalled();
  logged.mockRestore();
});

it('answers an address without names, and work that gives nothing', async () => {
  const plain = routeOf(endpoint('DELETE', '/api/things', done), idOf, async ({ ids, read }) => {
    expect(await ids()).toEqual({});
    expect(await read()).toBeUndefined();
  });
  const response = await plain(asked(undefined, {}, 'DELETE'), {
    params: undefined as unknown as Promise<never>,
  });
  expect(await response.json()).toEqual({});
});
