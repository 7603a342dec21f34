import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { runFileIn, runningElsewhere } from './running';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'running-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

const written = (content: unknown) =>
  writeFileSync(runFileIn(folder), typeof content === 'string' ? content : JSON.stringify(content));
const ADDRESS = 'http://127.0.0.1:3000';

it('finds nobody where nothing was written down', () => {
  expect(runningElsewhere(folder)).toBeNull();
});

it.each([
  ['half a file', '{"pid": 1'],
  ['no number', { pid: 'one', address: ADDRESS }],
  ['a process that ended', { pid: 2 ** 22 + 1, address: ADDRESS }],
  // The number of a killed run may be another program's by now.
  ['another program', { pid: 1, address: ADDRESS }],
  ['itself', { pid: process.pid, address: ADDRESS }],
])('finds nobody behind %s', (_, content) => {
  written(content);
  expect(runningElsewhere(folder)).toBeNull();
});

it('finds a run that is alive, by its program', async () => {
  const alive = spawn(process.execPath, ['-e', 'setTimeout(() => {}, 60000)', 'supervisor.mjs']);
  await new Promise((resolve) => alive.once('spawn', resolve));
  written({ pid: alive.pid, address: ADDRESS });
  // The name stands there once the program was begun in place of this one.
  for (let i = 0; i < 100 && runningElsewhere(folder) === null; i++) {
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  expect(runningElsewhere(folder)).toBe(ADDRESS);
  alive.kill('SIGKILL');
  await new Promise((resolve) => alive.once('exit', resolve));
  expect(runningElsewhere(folder)).toBeNull();
});
