import type { Gear } from './schema';
import { sheetOf } from './sheet';

const item = (name: string, change: Partial<Gear> = {}): Gear => ({
  id: name,
  name,
  kind: 'microphone',
  maker: '',
  specs: {},
  priceCents: null,
  ownership: 'owned',
  condition: '',
  notes: '',
  scores: {},
  attributes: {},
  accessoryIds: [],
  impedanceCurve: null,
  responseCurve: null,
  simulated: false,
  version: 1,
  ...change,
});

const sheet = (...items: Gear[]) =>
  Object.fromEntries(
    sheetOf(items, (id) => `accessory ${id}`).map(({ label, cells, differs }) => [
      label,
      [...cells, differs],
    ]),
  );

it('has every fact that one of them has, and says where they differ', () => {
  const found = sheet(
    item('A', { specs: { sensitivityDb: -32 }, priceCents: 89_900, maker: 'Werk 3', notes: 'x' }),
    item('B', { specs: { sensitivityDb: -54, selfNoiseDba: 18 }, maker: 'werk 3', notes: 'y' }),
  );
  expect(found).toEqual({
    Kind: ['microphone', 'microphone', false],
    Maker: ['Werk 3', 'werk 3', false],
    'Price (€)': ['899', '', false],
    Ownership: ['owned', 'owned', false],
    Notes: ['x', 'y', false],
    'Sensitivity (dB re 1 V/Pa)': ['-32', '-54', true],
    // What one does not say is no difference.
    'Self-noise (dBA)': ['', '18', false],
  });
});

it('ends with the studio’s own attributes, the commonest first, and names accessories', () => {
  const found = sheetOf(
    [
      item('A', { attributes: { outputs: '2', weight: '350 g' }, accessoryIds: ['x'] }),
      item('B', { attributes: { weight: '410 g' } }),
    ],
    (id) => `accessory ${id}`,
  );
  expect(found.map(({ label }) => label)).toEqual([
    'Kind',
    'Ownership',
    'Comes with',
    'Weight',
    'Outputs',
  ]);
  expect(found[2]!.cells).toEqual(['accessory x', '']);
  expect(found[3]).toEqual({ label: 'Weight', cells: ['350 g', '410 g'], differs: true });
});
