import { analyzeResults } from '@/core/statistics/analyze';
import { ratingHeadlineP } from '@/core/statistics/rating/analyze';
import { InputError } from './errors';
import { opening, parsed, readChains } from './tables';
import { signed, table } from './table';

/** Prints the statistics of a results file. */
export async function analyzeCommand(
  files: readonly string[],
  options: { json: boolean; seed: number; chains: string | undefined; key: string | undefined },
): Promise<void> {
  if (files.length !== 1) throw new InputError('analyze: name one results file');
  const file = files[0]!;
  const { chains, seed, key } = options;
  const known = chains === undefined ? null : await readChains(chains, ['microphone', 'preamp']);
  const open = await opening(key);
  const analysis = await parsed(file, (bytes) => analyzeResults(open(bytes), seed, known?.made));
  if (options.json) {
    process.stdout.write(`${JSON.stringify(analysis, null, 1)}\n`);
    return;
  }
  const { input, pair, rating, warnings } = analysis;
  process.stdout.write(
    `${input.rowsUsed} answers of ${input.listeners} listeners on ${input.chains} chains\n`,
  );
  if (pair) {
    process.stdout.write('log odds of being chosen, with 95 % interval:\n');
    process.stdout.write(
      table(
        pair.overall.map((row) => [
          row.chain,
          signed(row.logStrength, ''),
          row.ci95 ? `${signed(row.ci95[0], '')} to ${signed(row.ci95[1], '')}` : '',
        ]),
      ),
    );
    process.stdout.write(
      pair.panelTest
        ? `no chain differs: p = ${pair.panelTest.p.toPrecision(3)}\n`
        : 'no verdict about a panel: the test needs three listeners with preferences\n',
    );
  }
  if (rating) {
    process.stdout.write('adjusted mean rating, with 95 % interval:\n');
    process.stdout.write(
      table(
        rating.chains.map((row) => [
          row.chain,
          row.adjustedMean.toFixed(1),
          row.ci95 ? `${row.ci95[0].toFixed(1)} to ${row.ci95[1].toFixed(1)}` : '',
        ]),
      ),
    );
    const p = ratingHeadlineP(rating);
    process.stdout.write(
      p === null
        ? 'no verdict about a panel: there are too few ratings\n'
        : `no chain differs: p = ${p.toPrecision(3)}\n`,
    );
  }
  for (const { message } of warnings) process.stdout.write(`note: ${message}\n`);
}
