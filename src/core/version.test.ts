import { readFileSync } from 'node:fs';
import { PROGRAM } from './version';

it('is that of the package', () => {
  const { name, version } = JSON.parse(readFileSync('package.json', 'utf8')) as {
    name: string;
    version: string;
  };
  expect(PROGRAM).toBe(`${name} ${version}`);
});
