import { LogOutbox } from './ui/log-outbox';

const entry = (lineId: string, gainDb: number) => ({
  lineId,
  done: true,
  gainDb,
  distanceM: null,
  remark: '',
  writtenAt: '2026-11-20T10:00:00.000Z',
});
const LINE = '0b0f7f6e-3a39-4c53-a2c2-5f5d9b2d7a10';

function shelf() {
  const kept = new Map<string, string>();
  return {
    kept,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  };
}

const real = globalThis.fetch;
afterEach(() => {
  globalThis.fetch = real;
});

it('keeps entries over a lost connection and a new page, and lets go once they are taken', async () => {
  const storage = shelf();
  globalThis.fetch = () => Promise.reject(new Error('no connection'));
  const first = new LogOutbox('http://x/run-sheet', 'c', storage);
  first.put(entry(LINE, 40));
  await new Promise((resolve) => setTimeout(resolve, 20));
  expect(first.snapshot().trouble).toContain('kept on this device');
  first.stop();
  const sent: string[] = [];
  globalThis.fetch = (_, init) => {
    if (typeof init?.body === 'string') sent.push(init.body);
    return Promise.resolve(new Response('{}', { status: 200 }));
  };
  // The page was closed and opened again.
  const second = new LogOutbox('http://x/run-sheet', 'c', storage);
  expect(second.snapshot().waiting.map(({ gainDb }) => gainDb)).toEqual([40]);
  await second.flush();
  expect(JSON.parse(sent[0])).toEqual({ entries: [entry(LINE, 40)] });
  expect(second.snapshot()).toMatchObject({ waiting: [], trouble: null });
  expect(second.snapshot().taken).toHaveLength(1);
  expect(storage.kept.size).toBe(0);
});

it('the later entry of a line replaces the earlier; a refusal is told and not repeated', async () => {
  let calls = 0;
  globalThis.fetch = () => {
    calls++;
    return Promise.resolve(
      new Response(JSON.stringify({ error: 'There is no such comparison.' }), { status: 404 }),
    );
  };
  const outbox = new LogOutbox('http://x/run-sheet', 'c', shelf());
  outbox.put(entry(LINE, 40));
  outbox.put(entry(LINE, 41));
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(outbox.snapshot().waiting.map(({ gainDb }) => gainDb)).toEqual([41]);
  expect(outbox.snapshot().trouble).toBe('There is no such comparison.');
  expect(calls).toBe(1);
});

it('damaged storage is no obstacle', () => {
  const storage = shelf();
  storage.setItem('zeitbank run sheet c', '{"not": "a list"');
  const outbox = new LogOutbox('http://x', 'c', storage);
  expect(outbox.snapshot().waiting).toEqual([]);
});
