import fc from 'fast-check';
import type { ChainItem } from './item';
import type { GearKind } from './kinds';
import { contradictions, type GearSpecs, type ItemSettings } from './specs';
import { TARGET_DBFS } from './target';
import { feasible, walkChain } from './walk';

/*
 * What must hold of every ladder, whatever its gear: checked against the arithmetic of decibels, not against
 * what the walk printed.
 */

let items = 0;
const item = (kind: GearKind, specs: GearSpecs, settings: ItemSettings = {}): ChainItem => ({
  gear: { id: `${items++}`, name: kind, kind, specs, priceCents: null, accessoryIds: [] },
  settings,
});

const db = (min: number, max: number) => fc.double({ min, max, noNaN: true });
/** Fed from next to nothing into next to nothing, so that no load takes anything. */
const UNLOADED = { outputImpedanceOhm: 0.1, inputImpedanceOhm: 1e8 };

const microphone = fc
  .record({ sensitivityDb: db(-70, -20), selfNoiseDba: db(0, 30) })
  .map((specs) => item('microphone', { ...specs, outputImpedanceOhm: 0.1, powering: 'phantom' }));
const amplifier = fc
  .tuple(fc.constantFrom<GearKind>('booster', 'preamp', 'strip'), db(0, 60), db(-60, -10))
  .map(([kind, gainDb, outputNoiseDbu]) =>
    item(
      kind,
      {
        ...UNLOADED,
        minGainDb: 0,
        maxGainDb: 60,
        ...(kind === 'strip' ? { outputNoiseDbu } : { einDbu: -125 }),
      },
      { gainDb },
    ),
  );
const pad = db(0, 40).map((attenuationDb) => item('pad', { ...UNLOADED, attenuationDb }));
const stages = fc.array(fc.oneof(amplifier, pad), { maxLength: 5 });
const converter = fc
  .record({ fullScaleDbu: db(0, 30), dynamicRangeDb: db(90, 140) })
  .map((specs) => item('converter', { ...specs, inputImpedanceOhm: 1e8 }));
const source = fc.record({
  levelAt1MDb: db(40, 110),
  crestDb: db(3, 20),
  distanceM: db(0.05, 5),
  angleDeg: fc.constant(0),
  roomNoiseDba: fc.option(db(10, 50)),
});
const chain = fc.record({ microphone, stages, converter, source });

/** 0 dBV is the voltage of 1 V; 0 dBu that of √0.6 V. */
const DBV_IN_DBU = 20 * Math.log10(1 / Math.sqrt(0.6));
const gainOf = ({ gear: { specs }, settings }: ChainItem) =>
  settings.gainDb ?? -(specs.attenuationDb ?? 0);

describe('a microphone with figures of its own for a pattern', () => {
  const specs: GearSpecs = {
    patterns: ['cardioid', 'omni'],
    sensitivityDb: -34,
    selfNoiseDba: 14,
    perPattern: [{ pattern: 'omni', sensitivityDb: -38, selfNoiseDba: 18 }],
    outputImpedanceOhm: 0.1,
    powering: 'phantom',
  };
  const here = { levelAt1MDb: 80, crestDb: 12, distanceM: 1, angleDeg: 0, roomNoiseDba: null };
  const at = (settings: ItemSettings, change: GearSpecs = {}) =>
    walkChain([item('microphone', { ...specs, ...change }, settings)], here).stages[1]!;

  it('is that much quieter and noisier in it, and as stated in the others', () => {
    const [plain, cardioid, omni] = [at({}), at({ pattern: 'cardioid' }), at({ pattern: 'omni' })];
    expect(cardioid.signalDb).toBe(plain.signalDb);
    expect(omni.signalDb - plain.signalDb).toBeCloseTo(-4, 9);
    // 4 dB less of what it makes of 4 dB more.
    expect(omni.noiseDb).toBeCloseTo(plain.noiseDb ?? 0, 9);
  });

  it('follows the pattern that is stated first where none is set', () => {
    const first = at({}, { patterns: ['omni', 'cardioid'] });
    expect(first.signalDb).toBe(at({ pattern: 'omni' }).signalDb);
  });

  it('contradicts itself where figures are of no pattern of it, or stand twice', () => {
    const figures = { pattern: 'figure-eight', selfNoiseDba: 20 } as const;
    expect(contradictions({ ...specs, perPattern: [figures] })).toEqual([
      'Figures are given for figure-eight, which is not among its patterns.',
    ]);
    const twice = [...specs.perPattern!, ...specs.perPattern!];
    expect(contradictions({ ...specs, perPattern: twice })).toEqual([
      'Figures for omni stand twice.',
    ]);
    expect(contradictions(specs)).toEqual([]);
  });
});

it('adds up: sensitivity, pressure and every gain make the level at the converter', () => {
  fc.assert(
    fc.property(chain, (given) => {
      const { levelAt1MDb, distanceM } = given.source;
      const ladder = walkChain([given.microphone, ...given.stages, given.converter], given.source);
      const spl = levelAt1MDb - 20 * Math.log10(distanceM);
      const atMicrophone = (given.microphone.gear.specs.sensitivityDb ?? 0) + spl - 94 + DBV_IN_DBU;
      const gains = given.stages.reduce((sum, stage) => sum + gainOf(stage), 0);
      const fullScale = given.converter.gear.specs.fullScaleDbu ?? 0;
      expect(ladder.averageDbfs).toBeCloseTo(atMicrophone + gains - fullScale, 2);
      // A sample peak is a sine's peak, 3.01 dB over its own average.
      const peak = (ladder.averageDbfs ?? 0) + given.source.crestDb - 10 * Math.log10(2);
      expect(ladder.peakDbfs).toBeCloseTo(peak, 9);
      expect(ladder.stages).toHaveLength(given.stages.length + 3);
    }),
  );
});

it('follows the distance: twice as far is 6.02 dB less, and no other noise of its own', () => {
  fc.assert(
    fc.property(chain, (given) => {
      const all = [given.microphone, ...given.stages, given.converter];
      const quiet = { ...given.source, roomNoiseDba: null };
      const near = walkChain(all, quiet);
      const far = walkChain(all, { ...quiet, distanceM: 2 * quiet.distanceM });
      expect((near.averageDbfs ?? 0) - (far.averageDbfs ?? 0)).toBeCloseTo(6.0206, 3);
      const noise = (of: typeof near) => of.stages[of.stages.length - 1]!.noiseDb ?? 0;
      expect(noise(far)).toBeCloseTo(noise(near), 9);
    }),
  );
});

it('never gets quieter on its way than what came in, brought to one loudness', () => {
  fc.assert(
    fc.property(chain, (given) => {
      const { stages: walked, noiseDba } = walkChain(
        [given.microphone, ...given.stages, given.converter],
        given.source,
      );
      const ratios = walked.slice(1).map(({ signalDb, noiseDb }) => signalDb - (noiseDb ?? 0));
      for (let i = 1; i < ratios.length; i++) {
        expect(ratios[i]).toBeLessThanOrEqual(ratios[i - 1]! + 1e-6);
      }
      expect(noiseDba).toBeGreaterThan((given.microphone.gear.specs.selfNoiseDba ?? 0) - 0.01);
    }),
  );
});

it('a further input on the same microphone takes level, and never gives any', () => {
  fc.assert(
    fc.property(
      chain,
      db(50, 1000),
      fc.array(db(500, 1e5), { minLength: 1, maxLength: 3 }),
      (given, outputImpedanceOhm, others) => {
        const { specs } = given.microphone.gear;
        const mic = item('microphone', { ...specs, outputImpedanceOhm });
        const all = [mic, ...given.stages, given.converter];
        const [alone, shared] = [
          walkChain(all, given.source),
          walkChain(all, given.source, others),
        ];
        expect(shared.averageDbfs).toBeLessThan(alone.averageDbfs ?? 0);
        // Z into R takes 20·log10(R / (R + Z)) of a resistive source.
        const loadOhm = 1 / (1e-8 + others.reduce((sum, ohm) => sum + 1 / ohm, 0));
        const dropDb = 20 * Math.log10(loadOhm / (loadOhm + outputImpedanceOhm));
        expect(shared.loading?.dropDb).toBeCloseTo(dropDb, 6);
      },
    ),
  );
});

it('a preamp left to itself reaches the target as far as it can, and says by how much it does not', () => {
  const preamp = fc.tuple(db(20, 80), fc.constantFrom(0, 1, 3, 10)).map(([maxGainDb, gainStepDb]) =>
    item('preamp', {
      ...UNLOADED,
      minGainDb: 0,
      maxGainDb,
      einDbu: -125,
      ...(gainStepDb ? { gainStepDb } : {}),
    }),
  );
  fc.assert(
    fc.property(chain, preamp, (given, own) => {
      const ladder = walkChain([given.microphone, own, given.converter], given.source);
      const { gainNeededDb, gainUsedDb, gainMostDb, shortDb, averageDbfs, gainByHand } = ladder;
      const [needed, used, most] = [gainNeededDb ?? NaN, gainUsedDb ?? NaN, gainMostDb ?? NaN];
      expect(most).toBe(own.gear.specs.maxGainDb);
      expect(gainByHand).toBe(false);
      expect(shortDb).toBeCloseTo(Math.max(0, needed - most), 9);
      expect(used).toBeGreaterThanOrEqual(0);
      expect(used).toBeLessThanOrEqual(most + 1e-9);
      expect(averageDbfs).toBeCloseTo(TARGET_DBFS + used - needed, 6);
      // Never over what is needed, unless its least is.
      if (needed >= 0) expect(used).toBeLessThanOrEqual(needed + 1e-6);
      if (feasible(ladder)) expect(ladder.overloads).toEqual([]);
    }),
  );
});
