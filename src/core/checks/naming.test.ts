import fc from 'fast-check';
import { matchPattern, patternFault, readName } from './naming';
import { PROGRAMME_IDS } from './programme';

const word = fc.stringMatching(/^[A-Za-z0-9]{1,8}$/);

it('any name at all is read without a fault, into something that exists', () => {
  fc.assert(
    fc.property(
      fc.string({ unit: 'binary' }),
      fc.string(),
      fc.array(fc.string(), { maxLength: 5 }),
      (name, pattern, chains) => {
        const read = readName(name, pattern, chains, ['Voice']);
        expect(PROGRAMME_IDS).toContain(read.programme);
        if (read.chain !== null) expect(read.chain).toBeLessThan(chains.length);
        if (read.take !== null) expect(Number.isInteger(read.take)).toBe(true);
      },
    ),
  );
});

it('a name that was written by a pattern is read back by it', () => {
  fc.assert(
    fc.property(word, fc.integer({ min: 1, max: 99 }), word, (chain, take, source) => {
      const name = `${chain}_${take}_${source}.wav`;
      expect(matchPattern('{chain}_{take}_{source}', name)).toEqual({
        chain,
        take: String(take),
        source,
      });
    }),
  );
});

it('a pattern is either faultless or told why', () => {
  fc.assert(
    fc.property(fc.string(), (pattern) => {
      const fault = patternFault(pattern);
      if (fault !== null) expect(fault).toMatch(/\.$/);
    }),
  );
});

it('finds what a search of all possibilities finds', () => {
  const field = fc.constantFrom('{chain}', '{take}', '{step}');
  const pattern = fc
    .tuple(fc.stringMatching(/^[ab]{0,2}$/), field, fc.stringMatching(/^[ab]{1,2}$/), field)
    .map(([head, one, between, other]) => `${head}${one}${between}${other}`)
    .filter((text) => patternFault(text) === null);
  const tail = fc.stringMatching(/^[ab]{0,2}$/);
  fc.assert(
    fc.property(pattern, tail, fc.stringMatching(/^[abAB]{0,9}$/), (start, end, name) => {
      const text = `${start}${end}`;
      const groups = text.replace(/\{([a-z]+)\}/g, '(?<$1>.+?)');
      const all = new RegExp(`^${groups}$`, 'i').exec(name)?.groups;
      expect(matchPattern(text, `${name}.wav`)).toEqual(all ? { ...all } : null);
    }),
  );
});

it('reads a name of any length in steps that grow with it alone, whatever the pattern', () => {
  const pattern = '{anything}a'.repeat(18);
  expect(patternFault(pattern)).toBeNull();
  // A search that tries all ways would not end in a lifetime.
  expect(matchPattern(pattern, `${'a'.repeat(300)}b.wav`)).toBeNull();
});
