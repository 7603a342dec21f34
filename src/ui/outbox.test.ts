import { z } from 'zod';
import { Outbox, type OutboxOptions } from './outbox';
import { RequestError } from './request';

interface Entry {
  id: string;
  line: string;
  value: number;
}
const shape = z.array(z.object({ id: z.string(), line: z.string(), value: z.number() }));
const entry = (id: string, line: string, value: number): Entry => ({ id, line, value });

class Shelf {
  readonly kept = new Map<string, string>();
  full = false;
  getItem = (key: string) => {
    if (this.full) throw new Error('SecurityError');
    return this.kept.get(key) ?? null;
  };
  setItem = (key: string, value: string) => {
    if (this.full) throw new Error('QuotaExceededError');
    this.kept.set(key, value);
  };
  removeItem = (key: string) => void this.kept.delete(key);
}

function made(shelf: Shelf, change: Partial<OutboxOptions<Entry>> = {}) {
  const sent: Entry[][] = [];
  const outbox = new Outbox<Entry>({
    name: 'n',
    read: (stored) => shape.parse(stored),
    idOf: ({ id }) => id,
    send: (entries) => {
      sent.push([...entries]);
      return Promise.resolve();
    },
    atOnce: 1,
    refused: 'keep',
    storage: () => shelf,
    ...change,
  });
  return { outbox, sent };
}
const away = () => Promise.reject(new RequestError(0, 'away'));
const settle = () => new Promise((resolve) => setTimeout(resolve, 10));

it('keeps what was written over a lost connection and a new page, and lets go once it is taken', async () => {
  const shelf = new Shelf();
  const first = made(shelf, { send: away });
  first.outbox.put(entry('a', '1', 40));
  await settle();
  expect(first.outbox.snapshot()).toMatchObject({ standing: 'away', kept: 'on this device' });
  const second = made(shelf);
  expect(second.outbox.snapshot().waiting.map(({ value }) => value)).toEqual([40]);
  await second.outbox.flush();
  expect(second.sent).toEqual([[entry('a', '1', 40)]]);
  expect(second.outbox.snapshot()).toMatchObject({ waiting: [], standing: 'idle' });
  expect(shelf.kept.size).toBe(0);
  first.outbox.start()();
});

it('loses nothing where the browser refuses to store, and says that it would go with the page', async () => {
  const shelf = new Shelf();
  shelf.full = true;
  let open = false;
  const sent: Entry[] = [];
  const { outbox } = made(shelf, {
    send: ([one]) => (open ? Promise.resolve(void sent.push(one!)) : away()),
  });
  outbox.put(entry('a', '1', 1));
  outbox.put(entry('b', '2', 2));
  await settle();
  expect(outbox.snapshot()).toMatchObject({ kept: 'in this page only', standing: 'away' });
  expect(outbox.snapshot().waiting).toHaveLength(2);
  open = true;
  outbox.tryNow();
  await settle();
  expect(sent.map(({ id }) => id)).toEqual(['a', 'b']);
  expect(outbox.snapshot().waiting).toEqual([]);
});

it('says so, too, when the device is full only later', async () => {
  const shelf = new Shelf();
  const { outbox } = made(shelf, { send: away });
  expect(outbox.snapshot().kept).toBe('on this device');
  shelf.full = true;
  outbox.put(entry('a', '1', 1));
  expect(outbox.snapshot()).toMatchObject({ kept: 'in this page only' });
  await settle();
  outbox.start()();
});

it('a later entry of a line replaces the earlier; a refusal is told and not repeated', async () => {
  let calls = 0;
  const { outbox } = made(new Shelf(), {
    atOnce: 9,
    replaces: (later, earlier) => later.line === earlier.line,
    send: () => {
      calls++;
      return Promise.reject(new RequestError(404, 'There is no such comparison.'));
    },
  });
  outbox.put(entry('a', '1', 40));
  await settle();
  outbox.put(entry('b', '1', 41));
  await settle();
  expect(outbox.snapshot().waiting.map(({ value }) => value)).toEqual([41]);
  expect(outbox.snapshot().standing).toEqual({ refused: 'There is no such comparison.' });
  expect(calls).toBe(2);
});

it('what is refused for good is dropped with its sentence, and the next one goes', async () => {
  const told: string[] = [];
  const { outbox } = made(new Shelf(), {
    send: ([sent]) =>
      sent?.id === 'a' ? Promise.reject(new RequestError(409, 'Answered.')) : Promise.resolve(),
    refused: { drop: (sentence) => Promise.resolve(void told.push(sentence)) },
  });
  outbox.put(entry('a', '1', 1));
  outbox.put(entry('b', '2', 2));
  await settle();
  expect(told).toEqual(['Answered.']);
  expect(outbox.snapshot()).toMatchObject({ waiting: [], standing: 'idle' });
});

it('two pages of one device do not take each other’s entries away', async () => {
  const shelf = new Shelf();
  const one = made(shelf, { send: away });
  const two = made(shelf, { send: away });
  one.outbox.put(entry('a', '1', 1));
  two.outbox.put(entry('b', '2', 2));
  await settle();
  const third = made(shelf);
  expect(third.outbox.snapshot().waiting.map(({ id }) => id)).toEqual(['a', 'b']);
  for (const { outbox } of [one, two]) outbox.start()();
});

it('damaged storage is no obstacle', () => {
  const shelf = new Shelf();
  shelf.setItem('n', '{"not": "a list"');
  expect(made(shelf).outbox.snapshot()).toMatchObject({ waiting: [], kept: 'on this device' });
});
