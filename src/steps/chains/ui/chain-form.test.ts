import type { ChainItem } from '@/core/chain/item';
import type { GearKind } from '@/core/chain/kinds';
import { chainOf, type ChainValues, usualName } from './chain-form';

const item = (kind: GearKind, name: string): ChainItem => ({
  gear: {
    id: '11111111-1111-4111-8111-111111111111',
    name,
    kind,
    specs: {},
    priceCents: null,
    accessoryIds: [],
  },
  settings: {},
});
const GEAR = [
  item('microphone', 'Kern 40'),
  item('accessory', 'Clip E'),
  item('preamp', 'Linie 2'),
];
const values = (change: Partial<ChainValues>): ChainValues => ({
  name: '',
  remarks: '',
  price: '',
  distance: '',
  angle: '',
  shape: { kind: 'single' },
  gear: GEAR,
  ...change,
});

it('is named after what sound goes through, unless somebody names it', () => {
  expect(usualName([...GEAR, item('converter', 'Steg 8')])).toBe('Kern 40 › Linie 2');
  expect(chainOf(values({}))).toMatchObject({ draft: { name: 'Kern 40 › Linie 2' } });
  expect(chainOf(values({ name: ' Ours ' }))).toMatchObject({ draft: { name: 'Ours' } });
  expect(chainOf(values({ gear: [] }))).toEqual({ faults: { name: 'Give the chain a name.' } });
});

it.each([
  [{ distance: '32,5' }, { distanceM: 0.325 }],
  [{ angle: '−30' }, { angleDeg: -30 }],
  [{ price: '2 500,50' }, { priceCents: 250_050 }],
  [{ price: '0.1' }, { priceCents: 10 }],
  [{}, { distanceM: null, angleDeg: null, priceCents: null }],
])('reads %j as %j', (typed, kept) => {
  expect(chainOf(values(typed))).toMatchObject({ draft: kept });
});

it.each([
  [{ distance: 'near' }, { distance: '“near” is not a number.' }],
  [{ distance: '0' }, { distance: 'The distance is more than 0.' }],
  [
    { distance: '-5', angle: '400' },
    { distance: 'The distance is more than 0.', angle: 'Angles go from -180° to 180°.' },
  ],
  [{ price: '2.500' }, { price: '“2.500” can mean 2500 or 2.5; write 2500 or 2.5.' }],
  [{ price: '-1' }, { price: 'A price cannot be negative.' }],
  [{ name: 'x'.repeat(81) }, { name: 'Keep the name under 80 characters.' }],
  [{ remarks: 'x'.repeat(1001) }, { remarks: 'Keep the list under 1000 characters.' }],
  [{ gear: Array.from({ length: 17 }, () => GEAR[0]!) }, { gear: 'A chain has 16 items at most.' }],
])('says at the field what is wrong (%#)', (typed, faults) => {
  expect(chainOf(values(typed))).toEqual({ faults });
});
