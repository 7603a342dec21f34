import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { query } from './bank';
import { BANK } from './place';

// What guards blindness, doors and data has one try: once is a fault.
test.describe.configure({ retries: 0 });

const root = path.resolve(__dirname, '..');

/** Runs the command as a person would, on the bank that lies in a folder. */
function run(data: string, args: string[]) {
  const env: NodeJS.ProcessEnv = { ...process.env, ZEITBANK_ROOT: root, ZEITBANK_DATA: data };
  // A database that the tests name is not the one that is meant.
  delete env.DATABASE_URL;
  const done = spawnSync('node', ['dist/services/backup.mjs', ...args], {
    cwd: root,
    env,
    encoding: 'utf8',
    timeout: 150_000,
  });
  return { code: done.status, said: done.stderr.trim().split('\n'), out: done.stdout };
}

let folder: string;
test.beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'backups-'));
  // The server's own user has to come through to the bank that is made in it.
  chmodSync(folder, 0o755);
});
test.afterAll(() => rmSync(folder, { recursive: true, force: true }));

test('a bank is backed up while it runs, and comes back elsewhere with all its rows', async () => {
  test.setTimeout(300_000);
  const file = path.join(folder, 'bank.zip');
  const backup = run(BANK, ['backup', file]);
  expect(backup.said.at(-1)).toMatch(/holds the whole bank as it was at .*: \d+ rows, \d+ MB\.$/);
  expect(backup.code).toBe(0);
  const again = run(BANK, ['backup', file]);
  expect([again.code, again.said]).toEqual([
    2,
    [`zeitbank: ${file} is there already and was kept; choose another name, or say --force`],
  ]);

  const under = run(BANK, ['restore', file]);
  expect(under.code).toBe(2);
  expect(under.said.at(-1)).toMatch(
    /^zeitbank: Zeitbank runs at http.*; stop it first\. Nothing was changed$/,
  );
  // Whoever works on goes on.
  await expect(query('SELECT count(*) FROM account')).resolves.toHaveLength(1);

  const elsewhere = path.join(folder, 'bank');
  const restored = run(elsewhere, ['restore', file]);
  expect(restored.said.at(-1)).toMatch(/is back, every table with all its rows\.$/);
  expect(restored.code).toBe(0);
  const twice = run(elsewhere, ['restore', file]);
  expect(twice.code).toBe(2);
  expect(twice.said.at(-1)).toContain('there is a bank in this place already, and it was kept');
  const aside = run(elsewhere, ['restore', '--in-place', file]);
  expect(aside.code).toBe(0);
  expect(aside.said.at(-1)).toMatch(
    /^What was there is kept in the same database, in schemas that begin with aside_\d{14}\.$/,
  );
});

test('what is asked of it wrongly is told in one sentence, and leaves nothing', () => {
  const nowhere = path.join(folder, 'never');
  for (const [args, said] of [
    [['backup'], 'backup takes one file'],
    [['restore', 'a', 'b'], 'restore takes one file'],
    [['backup', '--in-place', 'a'], 'Unknown option'],
  ] as const) {
    const wrong = run(nowhere, [...args]);
    expect(wrong.code).toBe(2);
    expect(wrong.said).toHaveLength(1);
    expect(wrong.said[0]).toContain(said);
    expect(wrong.out).toBe('');
  }
  expect(existsSync(nowhere)).toBe(false);
});
