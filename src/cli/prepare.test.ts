import { execFile } from 'node:child_process';
import { chmod, copyFile, mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';

const run = promisify(execFile);

/** Stands for npm: says when it begins, and fails where another one is at work. */
const NPM = `#!/usr/bin/env bash
echo "$1" >>"$ZEITBANK_ROOT/asked"
mkdir "$ZEITBANK_ROOT/at-work" || { echo 'two at once' >&2; exit 1; }
sleep 0.3
# What goes on after it was asked, as a server that is started while something is installed.
sleep 600 </dev/null >/dev/null 2>&1 &
echo $! >>"$ZEITBANK_ROOT/going-on"
if [ "$1" = ci ]; then mkdir -p node_modules; else mkdir -p dist; echo 'console.log("ready")' >dist/cli.cjs; fi
rmdir "$ZEITBANK_ROOT/at-work"
`;

let root: string;

beforeAll(async () => {
  root = await mkdtemp(path.join(tmpdir(), 'zeitbank-prepare-'));
  for (const folder of ['src/core', 'src/cli', 'bin']) {
    await mkdir(path.join(root, folder), { recursive: true });
  }
  await copyFile('zeitbank', path.join(root, 'zeitbank'));
  await writeFile(path.join(root, 'package-lock.json'), '{}');
  await writeFile(path.join(root, 'bin/npm'), NPM);
  await chmod(path.join(root, 'bin/npm'), 0o755);
});

afterAll(async () => {
  for (const pid of (await readFile(path.join(root, 'going-on'), 'utf8')).trim().split('\n')) {
    process.kill(Number(pid));
  }
  await rm(root, { recursive: true });
});

it('prepares once, however many commands are started at the same time', async () => {
  const env = { ...process.env, PATH: `${path.join(root, 'bin')}:${process.env.PATH}` };
  const started = ['measure', 'analyze', 'read', 'compare'].map((command) =>
    run(path.join(root, 'zeitbank'), [command], { env }),
  );
  const said = await Promise.all(started);
  expect(said.map(({ stdout }) => stdout)).toEqual(Array(4).fill('ready\n'));
  expect(await readFile(path.join(root, 'asked'), 'utf8')).toBe('ci\nrun\n');
});
