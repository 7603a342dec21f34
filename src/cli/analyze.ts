import { analyzeResults, type Analysis } from '@/core/statistics/analyze';
import { ResultsFileError } from '@/core/statistics/results-file';
import { InputError } from './errors';
import { readWhole } from './files';
import { signed, table } from './table';

/** Prints the statistics of a results file. */
export async function analyzeCommand(
  files: readonly string[],
  options: { json: boolean; seed: number },
): Promise<void> {
  if (files.length !== 1) throw new InputError('analyze: name one results file');
  const [file] = files;
  let analysis: Analysis;
  try {
    analysis = analyzeResults(await readWhole(file), options.seed);
  } catch (error) {
    if (error instanceof ResultsFileError) throw new InputError(`${file}: ${error.message}`);
    throw error;
  }
  if (options.json) {
    process.stdout.write(`${JSON.stringify(analysis, null, 1)}\n`);
    return;
  }
  const { input, pair, warnings } = analysis;
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
  for (const { message } of warnings) process.stdout.write(`note: ${message}\n`);
}
