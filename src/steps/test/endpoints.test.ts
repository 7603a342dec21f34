import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { addressOf, type Endpoint } from '@/platform/endpoint';
import { HOUSE } from '@/platform/endpoints';
import { CHAINS } from '@/steps/chains/endpoints';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { DECISIONS } from '@/steps/decision/endpoints';
import { EARS, TRAINING } from '@/steps/ears/endpoints';
import { GEAR } from '@/steps/gear/endpoints';
import { LISTENING } from '@/steps/listening/endpoints';
import { MATCH } from '@/steps/match/endpoints';
import { PANEL } from '@/steps/panel/endpoints';
import { RESULTS } from '@/steps/results/endpoints';
import { SELF_TESTS } from '@/steps/self-test/endpoints';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { TAKES } from '@/steps/takes/endpoints';

type Known = Pick<Endpoint<string, never, never, never>, 'method' | 'path'>;
const GROUPS: Record<string, Record<string, Known>> = {
  HOUSE,
  CHAINS,
  COMPARISONS,
  DECISIONS,
  EARS,
  GEAR,
  LISTENING,
  MATCH,
  PANEL,
  RESULTS,
  SELF_TESTS,
  SITTINGS,
  TAKES,
  TRAINING,
};
const ROOT = path.resolve(__dirname, '../../app');
/** These answer with a file, a stream or by a protocol of their own. */
const NOT_JSON = [
  '/api/comparisons/[id]/decision/[file]',
  '/api/comparisons/[id]/events',
  '/api/comparisons/[id]/packs/[packId]/zip',
  '/api/comparisons/[id]/sittings/[sittingId]/files/[file]',
  '/api/comparisons/[id]/sittings/[sittingId]/report',
  '/api/comparisons/[id]/together/[readingId]/answers',
  '/api/gear/file',
  '/api/listen/[token]/key',
  '/api/log',
  '/api/uploads/[[...path]]',
];

const all = Object.entries(GROUPS).flatMap(([group, endpoints]) =>
  Object.entries(endpoints).map(([name, endpoint]) => ({ said: `${group}.${name}`, ...endpoint })),
);

it.each(all)(
  '$said is answered where it says: $method $path',
  ({ said, method, path: address }) => {
    const file = path.join(ROOT, address, 'route.ts');
    expect(existsSync(file)).toBe(true);
    const pattern = new RegExp(`export const ${method} = \\w+\\(\\s*${said.replace('.', '\\.')},`);
    expect(readFileSync(file, 'utf8')).toMatch(pattern);
  },
);

it('no two endpoints ask the same', () => {
  const asked = all.map(({ method, path: address }) => `${method} ${address}`);
  expect(new Set(asked).size).toBe(asked.length);
});

it('every route that answers with JSON is an endpoint', () => {
  const methods = readdirSync(ROOT, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('/route.ts'))
    .flatMap((file) => {
      const address = `/${file.slice(0, -'/route.ts'.length)}`;
      const text = readFileSync(path.join(ROOT, file), 'utf8');
      return [...text.matchAll(/export (?:const|async function|function) ([A-Z]+)\b/g)].map(
        ([, method]) => `${method} ${address}`,
      );
    })
    .filter((one) => !NOT_JSON.includes(one.split(' ')[1]!));
  const known = all.map(({ method, path: address }) => `${method} ${address}`);
  expect(methods.sort()).toEqual(known.sort());
});

it('fills the names of an address, and escapes what it fills in', () => {
  expect(addressOf(CHAINS.restore, { id: 'a b', chainId: '../c' })).toBe(
    '/api/comparisons/a%20b/chains/..%2Fc/restore',
  );
  expect(addressOf(GEAR.accessories, {}, { q: 'clip & mount' })).toBe(
    '/api/gear/accessories?q=clip+%26+mount',
  );
});
