import type { GearKind } from './kinds';
import type { GearSpecs, ItemSettings } from './specs';
import { phantomStop } from './stops';

const item = (name: string, kind: GearKind, specs: GearSpecs, settings: ItemSettings = {}) => ({
  gear: { id: name, name, kind, specs, priceCents: null, accessoryIds: [] },
  settings,
});
const ribbon = item('Ostra R1', 'microphone', { type: 'ribbon' });
const preamp = (phantom?: boolean) => item('Tarn 1', 'preamp', {}, { phantom });
const booster = item('Krume', 'booster', {});

it('stops a passive ribbon with phantom power on anywhere in its chain, and names both', () => {
  for (const items of [
    [ribbon, preamp(true)],
    [ribbon, booster, preamp(true)],
    [item('Ostra R1', 'microphone', { type: 'ribbon' }, { phantom: true }), preamp()],
  ]) {
    expect(phantomStop('Ostra R1 › Tarn 1', items)).toContain('Ostra R1 › Tarn 1');
    expect(phantomStop('Ostra R1 › Tarn 1', items)).toMatch(/^Stop: .*passive ribbon Ostra R1/);
  }
  expect(phantomStop('x', [ribbon, preamp(true)])).toContain('at Tarn 1');
});

it('lets everything else pass', () => {
  const others = [
    [ribbon, preamp()],
    [ribbon, preamp(false)],
    // A booster that is fed by phantom and passes none on needs it.
    [ribbon, item('Krume P', 'booster', { powering: 'phantom' }), preamp(true)],
    [item('Halde T2', 'microphone', { type: 'condenser' }), preamp(true)],
    [item('Moor A', 'microphone', { type: 'active ribbon' }), preamp(true)],
    [],
  ];
  for (const items of others) expect(phantomStop('x', items)).toBeNull();
});
