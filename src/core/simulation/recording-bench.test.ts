import type { ChainItem } from '@/core/chain/item';
import type { GearKind } from '@/core/chain/kinds';
import type { GearSpecs } from '@/core/chain/specs';
import { findAlignment } from '@/core/alignment/delay';
import { soundOf } from '@/core/signal/sound';
import { amplitudeToDb } from '@/core/signal/units';
import { rms } from '@/core/test/signals';
import { bandLevels } from '@/core/spectrum/spectra';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { benchFault, benchRecording, type BenchTake } from './recording-bench';

const RATE = 16000;
const item = (name: string, kind: GearKind, specs: GearSpecs = {}): ChainItem => ({
  gear: { id: name, name, kind, specs, priceCents: null, accessoryIds: [] },
  settings: {},
});
const condenser: ChainItem[] = [
  item('Mic', 'microphone', { type: 'condenser', patterns: ['cardioid'], selfNoiseDba: 10 }),
  item('Pre', 'preamp', { maxGainDb: 65 }),
];
const ribbon: ChainItem[] = [
  item('Rib', 'microphone', { type: 'ribbon', patterns: ['figure-eight'], sensitivityDb: -54 }),
  item('Pre', 'preamp', { maxGainDb: 65 }),
];
const take = (programme: string, change: Partial<BenchTake> = {}): BenchTake => ({
  programme,
  detail: '',
  instrument: 'contralto',
  distanceM: 0.3,
  angleDeg: 0,
  room: 'treated',
  performanceSeed: 1,
  seed: 1,
  knock: false,
  ...change,
});
const record = (items: ChainItem[], of: BenchTake) => benchRecording(items, of, RATE).samples;
const db = (samples: Float64Array) => amplitudeToDb(rms(samples));

it('is the same from the same seeds, and another performance from others', () => {
  const one = record(condenser, take('room'));
  expect(record(condenser, take('room'))).toEqual(one);
  expect(record(condenser, take('room', { seed: 2 }))).not.toEqual(one);
});

it('chains that record at once hold one performance, a ribbon the other way round', () => {
  const [a, b] = [condenser, ribbon].map((items) => record(items, take('performance')));
  const found = findAlignment(soundOf([a!]), soundOf([b!]), RATE);
  expect(found.coherence).toBeGreaterThan(0.5);
  expect(found.polarityInverted).toBe(true);
  const again = record(condenser, take('performance', { performanceSeed: 2 }));
  expect(findAlignment(soundOf([a!]), soundOf([again]), RATE).coherence).toBeLessThan(
    found.coherence - 0.2,
  );
});

it('knows patterns: a cardioid is deaf behind, a figure-eight at the side', () => {
  const at = (items: ChainItem[], detail: string) =>
    db(record(items, take('off-axis', { detail })));
  // What is left behind a cardioid is the room.
  expect(at(condenser, '0') - at(condenser, '180')).toBeGreaterThan(12);
  expect(at(ribbon, '0') - at(ribbon, '90')).toBeGreaterThan(12);
  expect(Math.abs(at(ribbon, '0') - at(ribbon, '180'))).toBeLessThan(0.5);
});

it('rises at the low end when it comes closer', () => {
  const [mic, pre] = condenser as [ChainItem, ChainItem];
  // Little gain, so that nothing clips close up.
  const quiet = [mic, { ...pre, settings: { gainDb: 15 } }];
  const tilt = (detail: string) => {
    const levels = bandLevels([record(quiet, take('distance', { detail }))], RATE, THIRD_OCTAVES);
    const of = (hz: number) => levels[THIRD_OCTAVES.findIndex((b) => b.centerHz === hz)] ?? 0;
    return of(200) - of(1000);
  };
  // A cardioid at 7 cm: 10·log10(1 + (390 / 200)²) = 6.8 dB, less 0.6 dB at 1 kHz; the room fills up.
  expect(tilt('7') - tilt('60')).toBeGreaterThan(4);
  expect(tilt('7') - tilt('60')).toBeLessThan(8);
});

it('switches the pattern: an omni has no rise close up, and touching is closer than 7 cm', () => {
  const [mic, pre] = condenser as [ChainItem, ChainItem];
  const quiet = [mic, { ...pre, settings: { gainDb: 0 } }];
  const level = (programme: string, detail: string) =>
    db(record(quiet, take(programme, { detail })));
  const tilt = (detail: string) => {
    const levels = bandLevels([record(quiet, take('pattern', { detail }))], RATE, THIRD_OCTAVES);
    const of = (hz: number) => levels[THIRD_OCTAVES.findIndex((b) => b.centerHz === hz)] ?? 0;
    return of(100) - of(1000);
  };
  // The same test sound near the microphone: a figure-eight rises more than a cardioid, an omni not at all.
  expect(tilt('cardioid') - tilt('omni')).toBeGreaterThan(1);
  expect(tilt('figure-eight') - tilt('cardioid')).toBeGreaterThan(1);
  expect(level('distance', '0')).toBeGreaterThan(level('distance', '7') + 6);
});

it('leaves only the chain when a resistor stands in for the microphone', () => {
  const [room, resistor] = ['room', 'resistor'].map((step) =>
    db(record(condenser, take(step))),
  ) as [number, number];
  expect(resistor).toBeLessThan(room - 3);
});

it('a booster lifts the level by its gain, a pad takes it back', () => {
  const [mic, pre] = ribbon as [ChainItem, ChainItem];
  const fixed = { ...pre, settings: { gainDb: 40 } };
  const plain = db(record([mic, fixed], take('tone')));
  const boosted = [mic, item('B', 'booster', { maxGainDb: 20 }), fixed];
  expect(db(record(boosted, take('tone'))) - plain).toBeCloseTo(20, 0);
  const padded = [mic, item('P', 'pad', { attenuationDb: 10 }), fixed];
  expect(db(record(padded, take('tone'))) - plain).toBeCloseTo(-10, 0);
});

it('somebody bumps into the stand only where told', () => {
  const low = (samples: Float64Array) =>
    bandLevels([samples], RATE, THIRD_OCTAVES)[THIRD_OCTAVES.findIndex((b) => b.centerHz === 50)] ??
    -200;
  expect(low(record(condenser, take('room', { knock: true })))).toBeGreaterThan(
    low(record(condenser, take('room'))) + 20,
  );
});

it('says what it cannot record', () => {
  expect(benchFault([])).toContain('no microphone');
  expect(benchFault([condenser[0]!])).toContain('no preamp');
  expect(benchFault(condenser)).toBeNull();
});
