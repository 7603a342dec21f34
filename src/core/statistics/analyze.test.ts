import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { analyzeResults } from './analyze';
import { disagreements, type Spec } from '@/core/test/expected';
import { parseChainsFile } from './chains-file';
import { judged } from './observation';
import { analyzePairs } from './pair/analyze';
import { clopperPearson, exactUpperTail, holm, signTest } from './distributions';
import { parseResultsFile } from './results-file';

const FOLDER = path.join(process.cwd(), 'conformance/statistics');

interface Case extends Spec {
  seed: number;
  chainsFile: string | null;
}

const NAMES = readdirSync(FOLDER)
  .filter((name) => name.endsWith('.expected.json'))
  .map((name) => name.replace('.expected.json', ''));

describe('worked examples of the analysis contract', () => {
  it.each(NAMES)('%s agrees in every field', (name) => {
    const spec = JSON.parse(
      readFileSync(path.join(FOLDER, `${name}.expected.json`), 'utf8'),
    ) as Case;
    const known = spec.chainsFile
      ? parseChainsFile(readFileSync(path.join(FOLDER, spec.chainsFile)), ['microphone', 'preamp'])
      : null;
    const bytes = readFileSync(path.join(FOLDER, `${name}.csv`));
    const got = analyzeResults(bytes, spec.seed, known?.made);
    const { warnings, ...expected } = spec.expect;
    expect(disagreements(expected, got, '', spec)).toEqual([]);
    const codes = new Set(got.warnings.map((warning) => warning.code));
    expect([...codes].sort()).toEqual([...warnings].sort());
  });

  it('uses the seed for the bootstrap only', () => {
    const bytes = readFileSync(path.join(FOLDER, '06-pair-order-effect.csv'));
    const [one, again, other] = [5, 5, 6].map((seed) => analyzeResults(bytes, seed).pair);
    expect(again).toEqual(one);
    expect({ ...other, bootstrap: null }).toEqual({ ...one, bootstrap: null });
    expect(other?.bootstrap?.chains).not.toEqual(one?.bootstrap?.chains);
  });
});

describe('files that must be refused', () => {
  const cases = JSON.parse(readFileSync(path.join(FOLDER, 'malformed/cases.json'), 'utf8')) as {
    name: string;
    file: string;
    row: number | null;
    mentions: string[];
  }[];

  it.each(cases.map((c) => [c.name, c] as const))('%s', (_, { file, row, mentions }) => {
    const act = () => parseResultsFile(readFileSync(path.join(FOLDER, 'malformed', file)));
    for (const word of [...mentions, ...(row === null ? [] : [`row ${row}`])]) {
      expect(act).toThrow(word);
    }
    expect(act).toThrow();
  });

  const header =
    'listener,source,context,trial,task,chain,chain_b,first,response,replicate,correct\n';
  const bytes = (text: string) => new TextEncoder().encode(text);

  it.each([
    ['a quote never closed', `${header}L1,,,1,pair,x,y,a,a,,\nL1,,,2,pair,"x,y,a,a,,\n`, 'row 3'],
    ['a chain against itself', `${header}L1,,,1,pair,x,x,a,a,,\n`, 'row 2'],
    ['an exponent', `${header}L1,,,1,rating,x,,,1e1,,\n`, 'row 2'],
    ['replicate zero', `${header}L1,,,1,pair,x,y,a,a,0,\n`, 'row 2'],
    ['no listener', `${header},,,1,pair,x,y,a,a,,\n`, 'row 2'],
    ['a column twice', `task,${header}`, 'row 1'],
  ])('%s', (_, text, message) => {
    expect(() => parseResultsFile(bytes(text))).toThrow(message);
  });

  it('bytes that are not UTF-8, with their row', () => {
    const start = bytes(`${header}L1,,,1,pair,x,y,a,a,,\nL2`);
    expect(() => parseResultsFile(Uint8Array.from([...start, 0xff, 44, 10]))).toThrow('row 3');
  });

  it('but accepts a byte order mark, CRLF and a missing last line end in silence', () => {
    const text = `\uFEFF${header}L1,,,1,pair,x,y,a,a,,\nL1,,,2,pair,x,y,b,tie,,`;
    const file = parseResultsFile(bytes(text.replaceAll('\n', '\r\n')));
    expect(file.observations).toHaveLength(2);
    expect(file.warnings).toEqual([]);
  });
});

describe('exact tests', () => {
  it('agrees with tables of the binomial distribution', () => {
    // 15 of 20 against one half: two-sided 0.04139 (e.g. Siegel & Castellan, table D).
    expect(signTest(15, 20)).toBeCloseTo(0.04139, 5);
    expect(signTest(0, 0)).toBe(1);
    // ISO 4120, table: 15 of 30 triangles is the least for 5 %.
    expect(exactUpperTail(15, 30, 1 / 3)).toBeLessThan(0.05);
    expect(exactUpperTail(14, 30, 1 / 3)).toBeGreaterThan(0.05);
  });

  it('gives the interval of Clopper and Pearson', () => {
    // 0 of 10: upper end 1 - 0.025^(1/10).
    expect(clopperPearson(0, 10)).toEqual([0, expect.closeTo(1 - 0.025 ** 0.1, 9)]);
    expect(clopperPearson(5, 10)[0]).toBeCloseTo(0.187086, 6);
  });

  it('adjusts after Holm', () => {
    expect(holm([0.01, null, 0.04, 0.03])).toEqual([
      expect.closeTo(0.03, 12),
      null,
      expect.closeTo(0.06, 12),
      expect.closeTo(0.06, 12),
    ]);
  });
});

it('gives the same strengths whichever way a pair is written', () => {
  const file = parseResultsFile(readFileSync(path.join(FOLDER, '02-pair-ties.csv')));
  const judgements = file.observations.filter(judged.pair);
  const swap = { a: 'b', b: 'a', tie: 'tie', '': '' } as const;
  const turned = judgements.map((row) => ({
    ...row,
    chain: row.chainB,
    chainB: row.chain,
    first: swap[row.first],
    response: swap[row.response],
  }));
  expect(analyzePairs(turned, 1).analysis.pairs).toEqual(
    analyzePairs(judgements, 1).analysis.pairs,
  );
  const [x, y] = [judgements, turned].map((j) => analyzePairs(j, 1).analysis.overall);
  x!.forEach((row, i) => expect(y![i]!.logStrength).toBeCloseTo(row.logStrength as number, 9));
});
