import { SPEC_FIELDS } from '../specs';
import { walkChain } from '../walk';
import type { ChainItem } from '../item';
import { fieldsOf, GEAR_KINDS, gearKind, type GearKind } from '.';

const item = (kind: GearKind, specs: ChainItem['gear']['specs'] = {}): ChainItem => ({
  gear: { id: kind, name: `the ${kind}`, kind, specs, priceCents: null, accessoryIds: [] },
  settings: {},
});
const source = { levelAt1MDb: 74, crestDb: 15, distanceM: 1, angleDeg: 0, roomNoiseDba: null };
const mic = item('microphone', { sensitivityDb: -40, outputImpedanceOhm: 100, selfNoiseDba: 10 });

it('are complete: each knows what it does on its way, and how it is called', () => {
  for (const id of GEAR_KINDS) {
    const kind = gearKind(id);
    expect(kind.link).not.toBe('');
    expect('stage' in kind).toBe(kind.role === 'stage' || kind.role === 'converter');
    expect('usualInputOhm' in kind).toBe('stage' in kind);
  }
  for (const field of SPEC_FIELDS) {
    expect(GEAR_KINDS.some((kind) => fieldsOf(kind).includes(field))).toBe(true);
  }
});

it('hold no other: a word that is none is refused, never read as another', () => {
  expect(() => gearKind('theremin' as GearKind)).toThrow('no kind of gear is called theremin');
  expect(() => walkChain([mic, item('theremin' as GearKind)], source)).toThrow(RangeError);
});

it('stand aside where no signal goes through them', () => {
  const bare = walkChain([mic, item('converter')], source);
  const dressed = walkChain([mic, item('capsule'), item('accessory'), item('converter')], source);
  expect(dressed).toEqual(bare);
});

it.each([
  ['booster', {}, 20],
  ['pad', {}, -20],
  ['pad', { attenuationDb: 12 }, -12],
  // Ten times the voltage is 20 dB, of which the winding takes 1.
  ['transformer', { turnsRatio: 10, insertionLossDb: 1 }, 19],
] as const)('a %s of %j does on the bench what the ladder says: %d dB', (kind, specs, gainDb) => {
  expect(gearKind(kind).fixedGainDb?.(specs)).toBeCloseTo(gainDb, 10);
  const { stages } = walkChain([mic, item(kind, specs), item('converter')], source);
  expect(stages.find((stage) => stage.kind === kind)?.gainDb).toBeCloseTo(gainDb, 10);
});

it('an input has the room that is left under the level that the load leaves of it', () => {
  // 1 kΩ into 1 kΩ is half the voltage, 6.02 dB; the booster's own gain is 20 dB.
  const { stages } = walkChain(
    [
      mic,
      item('booster', { outputImpedanceOhm: 1000, maxGainDb: 20, inputImpedanceOhm: 1e8 }),
      item('preamp', { inputImpedanceOhm: 1000, maxInputDbu: -10, maxOutputDbu: 60 }),
      item('converter', { inputImpedanceOhm: 1e8 }),
    ],
    source,
  );
  // -40 dB re 1 V/Pa at 74 dB SPL: -60 dBV, that is -57.78 dBu; peaks of a sine 11.99 dB over it.
  const inputDbu = -60 + 2.218 + 20 - 6.021 + (15 - 3.01);
  expect(stages[3]).toMatchObject({ kind: 'preamp' });
  expect(stages[3]!.headroomDb).toBeCloseTo(-10 - inputDbu, 2);
});
