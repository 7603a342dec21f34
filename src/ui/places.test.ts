import { existsSync } from 'node:fs';
import path from 'node:path';
import { placesFound } from './places';

const ID = '3f0a1d0e-0000-4000-8000-000000000001';
const names = (typed: string, at = '/') => placesFound(typed, at).map(({ text }) => text);

it('finds a place by its name, by how it begins, and by what is done there', () => {
  expect(names('gear')).toEqual(['Gear']);
  expect(names('pan')).toEqual(['Panel', 'What panels heard']);
  expect(names('BACKUP')).toEqual(['Copies']);
  expect(names('new comp')).toEqual(['New comparison']);
  expect(names('heard won')).toEqual(['What panels heard']);
  expect(names('trombone')).toEqual([]);
});

it('puts the places of the open comparison first, and knows of none elsewhere', () => {
  expect(placesFound('new', `/comparisons/${ID}/takes`).slice(0, 2)).toEqual([
    { text: 'Chains', where: 'of this comparison', address: `/comparisons/${ID}/chains` },
    { text: 'Sitting', where: 'of this comparison', address: `/comparisons/${ID}/sitting` },
  ]);
  expect(names('match')).toEqual([]);
  expect(names('match', '/comparisons/new')).toEqual([]);
});

it('leads to nothing that is not there', () => {
  const pages = path.resolve(__dirname, '../app/(engineer)');
  for (const { address } of placesFound('', `/comparisons/${ID}`)) {
    const folder = address.replace(ID, '[id]');
    expect([address, existsSync(path.join(pages, folder, 'page.tsx'))]).toEqual([address, true]);
  }
});
