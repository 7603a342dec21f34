import { parseResultsFile } from '@/core/statistics/results-file';
import { type Reading, readAcross } from '@/core/statistics/reading';
import { parseReadingPlan, type ReadingPlan } from '@/core/statistics/reading/plan-file';
import { InputError } from './errors';
import { table } from './table';
import { opening, parsed, readChains } from './tables';

const NO_PLAN: ReadingPlan = {};

/** Prints what the parts of a results file say against each other. */
export async function readCommand(
  files: readonly string[],
  options: {
    json: boolean;
    seed: number;
    chains: string | undefined;
    plan: string | undefined;
    key: string | undefined;
  },
): Promise<void> {
  if (files.length !== 1) throw new InputError('read: name one results file');
  const { seed, chains, plan } = options;
  const asked = {
    seed,
    chains: chains === undefined ? null : await readChains(chains, []),
    plan:
      plan === undefined
        ? NO_PLAN
        : await parsed(plan, (bytes) => parseReadingPlan(new TextDecoder().decode(bytes))),
  };
  const open = await opening(options.key);
  const reading = await parsed(files[0]!, (bytes) =>
    readAcross(parseResultsFile(open(bytes), true), asked),
  );
  process.stdout.write(options.json ? `${JSON.stringify(reading, null, 1)}\n` : inShort(reading));
}

function inShort({ input, cells, best, verdicts, warnings }: Reading): string {
  const lines = [
    `${input.rowsUsed} answers of ${input.listeners} listeners on ${input.chains} chains\n`,
  ];
  const places = cells.map(({ source, context, task, top }) => [
    [source, context].filter(Boolean).join(', ') || 'everywhere',
    task,
    top.length === 0 ? 'no order' : `strongest: ${top.join(', ')}`,
  ]);
  lines.push(table(places));
  for (const task of ['rating', 'pair'] as const) {
    const set = best[task];
    if (!set) continue;
    lines.push(
      set.winner
        ? `best by ${task}: ${set.winner}\n`
        : `not shown worse than the best by ${task}: ${set.notShownWorse.join(', ')}\n`,
    );
  }
  lines.push(
    table(
      [...verdicts.audibility, ...verdicts.preference].map(({ a, b, task, verdict }) => [
        `${a} against ${b}`,
        task,
        verdict,
      ]),
    ),
  );
  for (const { message } of warnings) lines.push(`note: ${message}\n`);
  return lines.join('');
}
