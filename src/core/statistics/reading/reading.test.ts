import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { disagreements, type Spec } from '@/core/test/expected';
import { parseChainsFile } from '../chains-file';
import { parseResultsFile } from '../results-file';
import { readAcross } from '.';
import { parseReadingPlan } from './plan-file';

const FOLDER = path.join(process.cwd(), 'conformance/reading');

interface Case extends Spec {
  seed: number;
  chainsFile: string | null;
  planFile: string | null;
}

const load = (file: string) => readFileSync(path.join(FOLDER, file));
const NAMES = readdirSync(FOLDER)
  .filter((name) => name.endsWith('.expected.json'))
  .map((name) => name.replace('.expected.json', ''));

function read(name: string, change: { seed?: number } = {}) {
  const spec = JSON.parse(load(`${name}.expected.json`).toString()) as Case;
  const file = parseResultsFile(load(`${name}.csv`), true);
  const reading = readAcross(file, {
    seed: spec.seed,
    chains: spec.chainsFile ? parseChainsFile(load(spec.chainsFile), []) : null,
    plan: spec.planFile ? parseReadingPlan(load(spec.planFile).toString()) : {},
    ...change,
  });
  return { spec, reading };
}

describe('worked examples of the reading contract', () => {
  it.each(NAMES)('%s agrees in every field', (name) => {
    const { spec, reading } = read(name);
    const { warnings, ...expected } = spec.expect;
    expect(disagreements(expected, reading, '', spec)).toEqual([]);
    const told = reading.warnings.map(({ section, code }) => `${section}:${code}`);
    expect([...new Set(told)].sort()).toEqual([...warnings].sort());
  });

  it('uses the seed for draws only', () => {
    const [one, again, other] = [1, 1, 2].map((seed) => read('12-value-pair', { seed }).reading);
    expect(again).toEqual(one);
    expect(other!.value?.chains).not.toEqual(one!.value?.chains);
    expect({ ...other, value: null, camps: null }).toEqual({ ...one, value: null, camps: null });
  });
});

describe('a plan', () => {
  it.each([
    ['no JSON', '{', 'plan'],
    ['a list', '[]', 'plan'],
    ['a share of one', '{"smallestPreference": 1}', 'smallestPreference'],
    ['a margin of nothing', '{"smallestRating": 0}', 'smallestRating'],
    ['everybody', '{"maxDistinguishers": 1}', 'maxDistinguishers'],
    ['no name', '{"rankings": [{"by": " ", "role": "engineer", "winner": "x"}]}', 'by'],
    ['another role', '{"rankings": [{"by": "A", "role": "guest", "winner": "x"}]}', 'role'],
    ['no prediction', '{"rankings": [{"by": "A", "role": "engineer"}]}', 'rankings'],
    [
      'another word',
      '{"rankings": [{"by": "A", "role": "listener", "distinguishable": "maybe"}]}',
      'distinguishable',
    ],
    ['rankings that are no list', '{"rankings": 3}', 'rankings'],
    ['a reference that is no name', '{"reference": 3}', 'reference'],
  ])('that holds %s is refused by name', (_, text, key) => {
    expect(() => parseReadingPlan(text)).toThrow(key);
  });

  it('may hold more than is known', () => {
    expect(parseReadingPlan('{"reference": "x", "note": 1}')).toEqual({ reference: 'x' });
  });
});

describe('a file of chains', () => {
  const file = (text: string) => new TextEncoder().encode(text);

  it.each([
    ['a chain twice', 'chain,price\nx,1\nx,2\n', 'row 3'],
    ['a price below nothing', 'chain,price\nx,-1\n', 'row 2'],
    ['a price in words', 'chain,price\n\nx,dear\n', 'row 3'],
    ['no column of chains', 'name,price\nx,1\n', 'row 1'],
    ['a row too long', 'chain\nx,1\n', 'row 2'],
    ['a chain without a name', 'chain,price\n,1\n', 'row 2'],
  ])('with %s is refused by row', (_, text, row) => {
    expect(() => parseChainsFile(file(text), [])).toThrow(row);
  });

  it('may leave open what is not known', () => {
    const { made, priced } = parseChainsFile(file('chain,microphone,price\nx,,\n'), []);
    expect(priced).toBe(true);
    expect(made.get('x')).toEqual({ microphone: '', preamp: '', price: null });
    expect(() => parseChainsFile(file('chain,microphone,preamp\nx,m,\n'), ['preamp'])).toThrow(
      'row 2: preamp is empty',
    );
  });
});
