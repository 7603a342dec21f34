import path from 'node:path';
import { parseArgs } from 'node:util';
import { z } from 'zod';
import { type Cluster, runningCluster, startCluster } from '../cluster';
import { runningElsewhere } from '../running';
import { backUp, recordRestored, restore } from './bank';
import { BackupError, rowsIn } from './file';

const settings = z
  .object({
    DATABASE_URL: z.string().optional(),
    ZEITBANK_DATA: z.string().optional(),
    ZEITBANK_ROOT: z.string(),
    /** Locks and opens backups; it is never given as an argument, where others could read it. */
    ZEITBANK_PASSPHRASE: z.string().min(1).optional(),
  })
  .parse(process.env);
const passphrase = settings.ZEITBANK_PASSPHRASE ?? null;
const root = settings.ZEITBANK_ROOT;
const folder = path.resolve(settings.ZEITBANK_DATA ?? path.join(root, '.zeitbank'));

const say = (line: string) => process.stderr.write(`${line}\n`);
const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(0)} MB`;
const SAY_EVERY_MS = 5000;

function usage(text: string): never {
  throw new BackupError(text);
}

function readArgs(command: string, args: string[]) {
  try {
    const { values, positionals } = parseArgs({
      args,
      allowPositionals: true,
      options:
        command === 'backup' ? { force: { type: 'boolean' } } : { 'in-place': { type: 'boolean' } },
    });
    const [file] = positionals;
    if (file === undefined || positionals.length > 1) {
      return usage(`${command} takes one file, as in ./zeitbank ${command} bank.zip`);
    }
    return { file, sure: Object.values(values).some((value) => value === true) };
  } catch (error) {
    if (error instanceof BackupError) throw error;
    return usage(`${command}: ${(error as Error).message.split(/[.\n]/)[0]}`);
  }
}

/** The bank's database: the one that is named, the one that runs, or one that is started for this alone. */
async function withBank<T>(alone: boolean, work: (url: string) => Promise<T>): Promise<T> {
  if (settings.DATABASE_URL) return work(settings.DATABASE_URL);
  const running = runningElsewhere(folder);
  if (running && alone) {
    throw new BackupError(`Zeitbank runs at ${running}; stop it first. Nothing was changed`);
  }
  const url = running && (await runningCluster(folder));
  if (url) return work(url);
  let cluster: Cluster | null = null;
  const end = () => {
    void cluster?.stop().finally(() => process.exit(130));
  };
  process.once('SIGINT', end);
  process.once('SIGTERM', end);
  try {
    cluster = await startCluster(folder);
    return await work(cluster.url);
  } finally {
    await cluster?.stop();
  }
}

async function run([command = '', ...args]: string[]): Promise<void> {
  const { file, sure } = readArgs(command, args);
  if (command === 'backup') {
    let last = Date.now();
    let all = 0;
    const told = (bytes: number) => {
      all = bytes;
      if (Date.now() - last < SAY_EVERY_MS) return;
      last = Date.now();
      say(`${megabytes(bytes)} written.`);
    };
    const manifest = await withBank(false, (url) =>
      backUp(url, file, { force: sure, passphrase, told }),
    );
    say(
      `${file} holds the whole bank as it was at ${manifest.madeAt}: ${rowsIn(manifest)} rows, ${megabytes(all)}.`,
    );
    return;
  }
  const { aside, manifest } = await withBank(true, async (url) => {
    const back = await restore(url, file, root, { inPlace: sure, passphrase, told: say });
    await recordRestored(url, back.manifest, new Date());
    return back;
  });
  say(`The bank of ${manifest.madeAt} is back, every table with all its rows.`);
  if (aside)
    say(`What was there is kept in the same database, in schemas that begin with ${aside}.`);
}

run(process.argv.slice(2)).catch((error: unknown) => {
  const known = error instanceof BackupError;
  say(`zeitbank: ${error instanceof Error ? error.message : String(error)}`);
  process.exitCode = known ? 2 : 1;
});
