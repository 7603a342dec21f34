import { createHash } from 'node:crypto';
import { type Entry, entryAfter, firstFault } from './chain';

const told = (about: string) => ({
  at: '2026-11-29T10:00:00.000Z',
  accountId: 'a',
  by: 'Mirela Voss',
  action: 'sealed' as const,
  about,
  comparisonId: null,
});

function chain(...abouts: string[]): Entry[] {
  const entries: Entry[] = [];
  for (const about of abouts)
    entries.push(entryAfter(entries[entries.length - 1] ?? null, told(about)));
  return entries;
}

it('gives each entry the number of the text that sha256sum would give it, and that of the one before', () => {
  const [one, two] = chain('first', 'second') as [Entry, Entry];
  expect(one.record).toBe(
    '{"about":"first","accountId":"a","action":"sealed","at":"2026-11-29T10:00:00.000Z","before":null,"by":"Mirela Voss","comparisonId":null,"form":"zeitbank event 1","n":1}',
  );
  expect(one.sha256).toBe(createHash('sha256').update(one.record).digest('hex'));
  expect(JSON.parse(two.record)).toMatchObject({ n: 2, before: one.sha256 });
  expect(firstFault([one, two], null)).toBeNull();
  // A page of it holds, too, after what stands before.
  expect(firstFault([two], one)).toBeNull();
});

describe('what was tampered with is named', () => {
  const whole = chain('a', 'b', 'c', 'd');

  it.each([
    [
      'a text',
      (of: Entry[]) =>
        of.map((e) => (e.n === 3 ? { ...e, record: e.record.replace('"c"', '"x"') } : e)),
      3,
    ],
    ['an entry left out', (of: Entry[]) => of.filter(({ n }) => n !== 2), 2],
    ['two changed places', (of: Entry[]) => [of[0]!, of[2]!, of[1]!, of[3]!], 2],
    [
      // Hashed anew by somebody who knows how: the next one still holds the old number.
      'an entry written anew with its number',
      (of: Entry[]) => of.map((e) => (e.n === 2 ? entryAfter(of[0]!, told('forged')) : e)),
      3,
    ],
    [
      'no JSON',
      (of: Entry[]) =>
        of.map((e) =>
          e.n === 4
            ? { ...e, record: '{', sha256: createHash('sha256').update('{').digest('hex') }
            : e,
        ),
      4,
    ],
  ] as const)('%s', (_, change, fault) => {
    expect(firstFault(change(whole), null)).toBe(fault);
  });
});
