import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { analyzeResults } from './analyze';

const CASES = path.join(process.cwd(), 'conformance/statistics');
const SCRIPTS = path.join(process.cwd(), 'docs/scripts');
const FILES = readdirSync(CASES).filter((name) => /pair.*\.csv$/.test(name));

const PROGRAMS = [
  ['python3', 'headline.py'],
  ['Rscript', 'headline.R'],
] as const;

describe.each(PROGRAMS)('%s, where it is at hand', (program, script) => {
  const there = spawnSync(program, ['--version']).status === 0;
  (there ? it : it.skip).each(FILES)('finds the headline of %s from the answers alone', (file) => {
    const { stdout, status } = spawnSync(
      program,
      [path.join(SCRIPTS, script), path.join(CASES, file)],
      {
        encoding: 'utf8',
      },
    );
    expect(status).toBe(0);
    const test = analyzeResults(readFileSync(path.join(CASES, file)), 1).pair?.panelTest;
    const [, p] = /p = (\S+)/.exec(stdout) ?? [];
    // Of panels that are not complete the scripts say so.
    if (!test || test.approximation !== 'F') expect(stdout).toContain('no test');
    else expect(Number(p) / test.p).toBeCloseTo(1, 4);
  });
});
