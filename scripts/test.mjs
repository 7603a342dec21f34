// All checks and tests; ends with one plain line over Jest and Playwright.
import { spawn } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import os from 'node:os';
import path from 'node:path';

const root = path.resolve(import.meta.dirname, '..');
const reports = path.join(root, '.zeitbank/reports');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
// A bank of its own for the browser, where the database's user may enter whatever holds the checkout.
const bank = mkdtempSync(path.join(os.tmpdir(), 'zeitbank-e2e-'));
chmodSync(bank, 0o755);

const failed = [];
const running = new Set();
let stopped = false;
// Whoever stops the command waits until what it started has ended; a terminal tells the others itself.
process.on('SIGINT', () => {
  stopped = true;
});
process.on('SIGTERM', () => {
  stopped = true;
  for (const child of running) child.kill('SIGTERM');
});

/** @param held whether what it prints waits for its end, since others print meanwhile */
function run(name, command, args, { env = {}, held = false } = {}) {
  if (stopped) return Promise.resolve();
  if (!held) process.stdout.write(`\n== ${name}\n`);
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd: root,
      stdio: held ? ['ignore', 'pipe', 'pipe'] : 'inherit',
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
    });
    running.add(child);
    const said = [];
    child.stdout?.on('data', (text) => said.push(text));
    child.stderr?.on('data', (text) => said.push(text));
    const ended = (status) => {
      if (!running.delete(child)) return;
      if (held) process.stdout.write(`\n== ${name}\n${Buffer.concat(said)}`);
      if (status !== 0) failed.push(name);
      resolve();
    };
    child.once('error', ended);
    child.once('close', ended);
  });
}

function bin(tool) {
  return path.join(root, 'node_modules/.bin', tool);
}

function freePort() {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });
}

/** Counts of a JSON report; a suite that gave none counts as one failure. */
function counts(file, read) {
  try {
    return read(JSON.parse(readFileSync(path.join(reports, file), 'utf8')));
  } catch {
    return { passed: 0, failed: 1 };
  }
}

await run('web build', 'npm', ['run', '--silent', 'build:web']);
await run('build of services and command line', 'npm', ['run', '--silent', 'build:services']);
await run('build of the command line', 'npm', ['run', '--silent', 'build:cli']);
// Lint reads the types that the web build wrote; it takes as long as all the others together.
await Promise.all([
  run('lint', bin('eslint'), ['--max-warnings', '0', '.'], { held: true }),
  (async () => {
    const held = { held: true };
    await run('types', bin('tsc'), ['--noEmit'], held);
    await run('format', bin('prettier'), ['--check', '--log-level', 'warn', '.'], held);
    await run('boundaries', bin('depcruise'), ['src', '--config', '.dependency-cruiser.mjs'], held);
    await run('tables of steps', 'node', ['scripts/tables.mjs'], held);
  })(),
]);
await run('unit and service tests', bin('jest'), [
  '--json',
  `--outputFile=${path.join(reports, 'jest.json')}`,
]);
await run('tests through the interface', bin('playwright'), ['test'], {
  env: {
    E2E_PORT: String(await freePort()),
    E2E_DATA: bank,
    E2E_REPORT: path.join(reports, 'playwright.json'),
  },
});

rmSync(bank, { recursive: true, force: true });
if (stopped) process.exit(130);

const jest = counts('jest.json', (report) => ({
  passed: report.numPassedTests,
  failed: report.numFailedTests + report.numRuntimeErrorTestSuites,
}));
const playwright = counts('playwright.json', ({ stats }) => ({
  passed: stats.expected + stats.flaky,
  failed: stats.unexpected,
}));
process.stdout.write(failed.length > 0 ? `\nFailed: ${failed.join(', ')}\n` : '\n');
process.stdout.write(
  `${jest.passed + playwright.passed} passed, ${jest.failed + playwright.failed} failed\n`,
);
process.exit(failed.length > 0 ? 1 : 0);
