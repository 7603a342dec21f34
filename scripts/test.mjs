// All checks and tests, one after the other; ends with one plain line over Jest and Playwright.
import { spawnSync } from 'node:child_process';
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

function run(name, command, args, env = {}) {
  process.stdout.write(`\n== ${name}\n`);
  const done = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
  });
  if (done.status !== 0) failed.push(name);
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

run('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
run('build of services and command line', 'npm', ['run', '--silent', 'build:services']);
run('build of the command line', 'npm', ['run', '--silent', 'build:cli']);
run('web build', 'npm', ['run', '--silent', 'build:web']);
run('types', bin('tsc'), ['--noEmit']);
run('lint', bin('eslint'), ['--max-warnings', '0', '.']);
run('boundaries', bin('depcruise'), ['src', '--config', '.dependency-cruiser.mjs']);
run('tables of steps', 'node', ['scripts/tables.mjs']);
run('unit and service tests', bin('jest'), [
  '--json',
  `--outputFile=${path.join(reports, 'jest.json')}`,
]);
run('tests through the interface', bin('playwright'), ['test'], {
  E2E_PORT: String(await freePort()),
  E2E_DATA: bank,
  E2E_REPORT: path.join(reports, 'playwright.json'),
});

rmSync(bank, { recursive: true, force: true });

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
