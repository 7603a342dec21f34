import type { GearKind } from '../kinds';
import type { GearSpecs, ItemSettings } from '../specs';
import type { WorkPlan } from './caution';
import { CAUTIONS, cautionsFor } from './index';

const QUIET: WorkPlan = {
  items: [],
  loudestDb: 80,
  overPeople: false,
  plosiveTest: false,
  headphoneMinutes: 10,
};

function withItem(kind: GearKind, specs: GearSpecs, settings: ItemSettings = {}): WorkPlan {
  const gear = { id: 'x', name: 'x', kind, specs, priceCents: null, accessoryIds: [] };
  return { ...QUIET, items: [{ gear, settings }] };
}

it.each([
  ['ribbon-and-phantom', withItem('microphone', { type: 'ribbon' })],
  ['ribbon-and-air', withItem('microphone', { type: 'active ribbon' })],
  ['valve-supply', withItem('microphone', { type: 'valve condenser' })],
  ['opening-gear', withItem('capsule', {})],
  ['opening-gear', withItem('preamp', {}, { switches: 'input transformer swapped' })],
  ['switching-phantom', withItem('microphone', { type: 'condenser', powering: 'phantom' })],
  ['switching-phantom', withItem('preamp', {}, { phantom: true })],
  ['plosives-at-ribbon', { ...withItem('microphone', { type: 'ribbon' }), plosiveTest: true }],
  ['overhead-load', { ...QUIET, overPeople: true }],
  ['loud-source', { ...QUIET, loudestDb: 118 }],
  ['long-headphones', { ...QUIET, headphoneMinutes: 40 }],
])('%s is shown when its condition holds', (id, plan) => {
  expect(cautionsFor(plan).map((caution) => caution.id)).toContain(id);
});

it('shows nothing without a reason, and every caution says whose word counts', () => {
  expect(cautionsFor(QUIET)).toEqual([]);
  expect(cautionsFor(withItem('microphone', { type: 'moving coil', powering: 'passive' }))).toEqual(
    [],
  );
  expect(new Set(CAUTIONS.map(({ id }) => id)).size).toBe(CAUTIONS.length);
  for (const { text, defersTo } of CAUTIONS) {
    expect(text.length).toBeGreaterThan(40);
    expect(defersTo).toMatch(/maker|technician|local rules/);
  }
});
