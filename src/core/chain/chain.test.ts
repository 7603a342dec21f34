import fc from 'fast-check';
import { distanceFactor, proximityDb, randomEnergyEfficiency, splAtDb } from './acoustics';
import { bracketOf, chainCost, CircularAccessoryError, equalCostPairs, setCost } from './cost';
import {
  A_WEIGHTED_WHITE_DB,
  addPowersDb,
  DBV_IN_DBU,
  inputNoiseDbu,
  loadingDb,
  parallelOhm,
  restateEinDbu,
  thermalNoiseDbu,
} from './electric';
import { fairness, type PlannedChain } from './fairness';
import { curveAt, loadedDb, loadingEffect, microphoneImpedance } from './impedance';
import { remedies } from './remedies';
import type { ChainItem, GearItem } from './item';
import type { GearKind } from './kinds';
import { contradictions, type GearSpecs } from './specs';
import { imageShift, interChannel, recordingAngleDeg } from './stereo';
import { settableGainDb } from './gain';
import type { SourceAtMic } from './kinds/microphone';
import { feasible, ladderFinding, loadingNotes, walkChain } from './walk';
import type { Stage } from './walk';

function gear(
  name: string,
  kind: GearKind,
  specs: GearSpecs,
  more: Partial<GearItem> = {},
): GearItem {
  return { id: name, name, kind, specs, priceCents: null, accessoryIds: [], ...more };
}
function item(of: GearItem, settings: ChainItem['settings'] = {}): ChainItem {
  return { gear: of, settings };
}

const VOICE: SourceAtMic = {
  levelAt1MDb: 74,
  crestDb: 14,
  distanceM: 0.21,
  angleDeg: 0,
  roomNoiseDba: null,
};
const ribbon = gear('Ostra R1', 'microphone', {
  type: 'ribbon',
  powering: 'passive',
  patterns: ['figure-eight'],
  sensitivityDb: -54,
  outputImpedanceOhm: 300,
  maxSplDb: 135,
});
const preamp = gear('Linie 2', 'preamp', {
  minGainDb: 10,
  maxGainDb: 66,
  inputImpedanceOhm: 1500,
  einDbu: -127,
  einSourceOhm: 150,
  maxOutputDbu: 24,
});
const converter = gear('Steg 8', 'converter', {
  fullScaleDbu: 18,
  dynamicRangeDb: 116,
  inputImpedanceOhm: 10_000_000,
});
const short = gear('Pfad 4', 'preamp', { ...preamp.specs, maxGainDb: 46 });
const booster = gear('Hebel 25', 'booster', {
  maxGainDb: 25,
  inputImpedanceOhm: 3000,
  outputImpedanceOhm: 100,
  einDbu: -128,
  einSourceOhm: 150,
  maxOutputDbu: 10,
});

describe('electric', () => {
  it('adds powers, puts loads side by side, and loads sources', () => {
    expect(addPowersDb([-60, -60])).toBeCloseTo(-56.9897, 4);
    expect(addPowersDb([])).toBe(-Infinity);
    expect(parallelOhm([1500, 1500])).toBeCloseTo(750, 9);
    expect(parallelOhm([1500, Infinity])).toBeCloseTo(1500, 9);
    expect(loadingDb(200, 1500)).toBeCloseTo(-1.0872, 4);
    // A splitter with a second input of the same kind.
    expect(loadingDb(200, parallelOhm([1500, 1500]))).toBeCloseTo(-2.0532, 3);
    expect(DBV_IN_DBU).toBeCloseTo(2.2185, 4);
  });

  it('knows thermal noise: -130.92 dBu for 150 Ω, -129.67 for 200 Ω, in 20 kHz at 20 °C', () => {
    expect(thermalNoiseDbu(150)).toBeCloseTo(-130.918, 3);
    expect(thermalNoiseDbu(200)).toBeCloseTo(-129.6686, 3);
    expect(thermalNoiseDbu(0)).toBe(-Infinity);
    expect(A_WEIGHTED_WHITE_DB).toBeCloseTo(-2.0523, 3);
  });

  it('restates EIN for another source, weighting or bandwidth, and refuses the impossible', () => {
    const stated = {
      einDbu: -127,
      weighting: 'unweighted',
      bandwidthHz: 20_000,
      sourceOhm: 150,
    } as const;
    expect(inputNoiseDbu(stated)).toBeCloseTo(-129.2599, 3);
    const as = { weighting: 'unweighted', bandwidthHz: 20_000 } as const;
    expect(restateEinDbu(stated, { ...as, sourceOhm: 150 })).toBeCloseTo(-127, 9);
    expect(restateEinDbu(stated, { ...as, sourceOhm: 0 })).toBeCloseTo(-129.2599, 3);
    expect(
      restateEinDbu(stated, { weighting: 'A', bandwidthHz: 20_000, sourceOhm: 150 }),
    ).toBeCloseTo(-129.0523, 3);
    // Half the bandwidth holds half the power.
    expect(restateEinDbu(stated, { ...as, bandwidthHz: 10_000, sourceOhm: 150 })).toBeCloseTo(
      -130.0103,
      3,
    );
    expect(inputNoiseDbu({ ...stated, einDbu: -131 })).toBeNull();
  });
});

describe('loading', () => {
  const coil = microphoneImpedance({
    type: 'moving coil',
    outputImpedanceOhm: 200,
    inductanceMh: 1.2,
    resonanceHz: 140,
    resonanceOhm: 180,
    resonanceQ: 1,
  });

  it('follows the resonance of a coil (values from complex arithmetic by hand)', () => {
    expect(loadedDb(coil.at, 1500, 140)).toBeCloseTo(-1.9613, 3);
    expect(loadedDb(coil.at, 1500, 100)).toBeCloseTo(-1.7006, 3);
    expect(loadedDb(coil.at, 1500, 1000)).toBeCloseTo(-1.106, 3);
    expect(loadedDb(coil.at, 1500, 10_000)).toBeCloseTo(-1.0953, 3);
    const effect = loadingEffect(coil.at, 1500);
    expect(effect.dropDb).toBeCloseTo(-1.106, 3);
    expect(effect.lowDb).toBeCloseTo(-0.5946, 3);
    expect(effect.tiltDb).toBeCloseTo(0.855, 2);
  });

  it('does nothing to the response of a resistive source, and more to a lower load', () => {
    const flat = microphoneImpedance({ type: 'condenser', outputImpedanceOhm: 50 });
    expect(loadingEffect(flat.at, 1500).tiltDb).toBeCloseTo(0, 9);
    fc.assert(
      fc.property(fc.integer({ min: 100, max: 5000 }), (ohm) => {
        expect(loadingEffect(coil.at, ohm).tiltDb).toBeGreaterThan(
          loadingEffect(coil.at, 2 * ohm).tiltDb,
        );
      }),
      { numRuns: 20 },
    );
  });

  it('reads a measured curve between its points, and says what it assumes without one', () => {
    const curve = [
      [100, 400],
      [1000, 200],
      [10_000, 300],
    ] as const;
    expect(curveAt(curve, 316.22776601683796, 1)).toBeCloseTo(300, 6);
    expect(curveAt(curve, 20, 1)).toBe(400);
    expect(curveAt(curve, 20_000, 1)).toBe(300);
    const measured = microphoneImpedance({ type: 'moving coil' }, curve);
    expect(measured.assumed).toBeNull();
    expect(loadedDb(measured.at, 600, 1000)).toBeCloseTo(loadingDb(200, 600), 9);
    expect(microphoneImpedance({ type: 'moving coil' }).assumed).toBe(
      'output impedance 200 Ω, a usual coil',
    );
  });
});

describe('acoustics', () => {
  it('knows distance, patterns and proximity', () => {
    expect(splAtDb(74, 0.5)).toBeCloseTo(80.0206, 4);
    expect(randomEnergyEfficiency(0.5)).toBeCloseTo(1 / 3, 9);
    expect(distanceFactor(0.5)).toBeCloseTo(1.732, 3);
    expect(distanceFactor(0.25)).toBeCloseTo(2, 9);
    expect(distanceFactor(0.37)).toBeCloseTo(1.927, 3);
    expect(distanceFactor(1)).toBe(1);
    // At kr = 1 a gradient has √2 times its far output.
    const atKr1 = 343.42 / (2 * Math.PI * 0.1);
    expect(proximityDb(0, 0.1, atKr1)).toBeCloseTo(3.0103, 3);
    expect(proximityDb(0.5, 0.1, atKr1)).toBeCloseTo(0.9691, 3);
    expect(proximityDb(1, 0.1, 50)).toBeCloseTo(0, 9);
    expect(proximityDb(0.5, 0.1, 50, 90)).toBeCloseTo(0, 9);
    expect(proximityDb(0, 0.1, 50, 90)).toBeNull();
  });

  it('knows stereo arrays', () => {
    const spaced = interChannel({ p: 1, spacingM: 0.5, openingDeg: 0 }, 90);
    expect(spaced.timeMs).toBeCloseTo(1.456, 3);
    expect(spaced.levelDb).toBeCloseTo(0, 9);
    const coincident = { p: 0.5, spacingM: 0, openingDeg: 90 };
    expect(interChannel(coincident, 45).levelDb).toBeCloseTo(6.0206, 4);
    expect(interChannel(coincident, -45).levelDb).toBeCloseTo(-6.0206, 4);
    expect(imageShift({ levelDb: 7.5, timeMs: 0.55 })).toBeCloseTo(1, 9);
    // Crossed figure-eights: (1 + tan θ) / (1 - tan θ) is 15 dB at θ = 34.9°.
    expect(recordingAngleDeg({ p: 0, spacingM: 0, openingDeg: 90 })).toBeCloseTo(69.8, 0);
    // Spaced omnis: 1.1 ms is reached where sin θ = 1.1 ms · c / d.
    const angle = recordingAngleDeg({ p: 1, spacingM: 0.5, openingDeg: 0 });
    expect(angle).toBeCloseTo((2 * Math.asin((0.0011 * 343.42) / 0.5) * 180) / Math.PI, 0);
    expect(recordingAngleDeg({ p: 1, spacingM: 0.1, openingDeg: 0 })).toBeNull();
  });
});

describe('the walk through a chain', () => {
  it('gives level, noise and headroom at every stage (worked by hand)', () => {
    const ladder = walkChain([item(ribbon), item(preamp), item(converter)], VOICE);
    expect(ladder.stages.map(({ kind }) => kind)).toEqual([
      'sound',
      'microphone',
      'preamp',
      'converter',
    ]);
    const [sound, mic, pre, end] = ladder.stages as [Stage, Stage, Stage, Stage];
    expect(sound.signalDb).toBeCloseTo(87.5556, 3);
    expect(mic.signalDb).toBeCloseTo(-59.8095, 3);
    expect(mic.peakDb - mic.signalDb).toBeCloseTo(10.9897, 3);
    expect(mic.noiseDb).toBeCloseTo(-131.5436, 3);
    expect(mic.headroomDb).toBeCloseTo(135 - 87.5556 - 10.9897, 3);
    expect(pre.gainDb).toBeCloseTo(59.8095, 3);
    expect(end.noiseDb).toBeCloseTo(-68.6015, 3);
    expect(ladder.averageDbfs).toBeCloseTo(-18, 3);
    expect(ladder.peakDbfs).toBeCloseTo(-7.0103, 3);
    expect(ladder.gainNeededDb).toBeCloseTo(59.8095, 3);
    expect(ladder.signalToNoiseDb).toBeCloseTo(68.6015, 3);
    expect(ladder.noiseDba).toBeCloseTo(18.9541, 3);
    expect(ladder.matchedNoiseDba).toBeCloseTo(5.3985, 3);
    expect(ladder.loading?.dropDb).toBeCloseTo(-1.5836, 3);
    expect(ladder.assumed).toEqual([]);
    expect(feasible(ladder)).toBe(true);
  });

  it('says how short a preamp is, and what of the list helps, quietest first', () => {
    const chain = [item(ribbon), item(short), item(converter)];
    const ladder = walkChain(chain, VOICE);
    expect(ladder.shortDb).toBeCloseTo(13.8095, 3);
    expect(ladderFinding(ladder)).toBe('14 dB short: no more gain.');
    const found = remedies(chain, VOICE, [preamp, booster, ribbon]);
    expect(found.map(({ text }) => text)).toEqual(
      expect.arrayContaining([
        'Put Hebel 25 after the microphone.',
        'Take Linie 2 instead of Pfad 4.',
        'Go closer, to 4 cm; the low end and the balance change with it.',
      ]),
    );
    const noises = found.map(({ noiseDba }) => noiseDba);
    expect(noises).toEqual([...noises].sort((a, b) => a - b));
    expect(remedies([item(ribbon), item(preamp), item(converter)], VOICE, [booster])).toEqual([]);
  });

  it('finds the stage that overloads, and a pad that helps', () => {
    const hot = gear('Kern 40', 'microphone', {
      type: 'condenser',
      powering: 'phantom',
      patterns: ['cardioid'],
      sensitivityDb: -32,
      selfNoiseDba: 9,
      maxSplDb: 120,
      padsDb: [10],
      outputImpedanceOhm: 100,
    });
    const loud = { ...VOICE, levelAt1MDb: 104 };
    const chain = [item(hot), item(preamp), item(converter)];
    const ladder = walkChain(chain, loud);
    expect(ladder.overloads[0]!.stage).toBe('Kern 40');
    expect(ladder.overloads[0]!.byDb).toBeCloseTo(117.5556 + 10.9897 - 120, 3);
    expect(feasible(ladder)).toBe(false);
    expect(remedies(chain, loud, []).map(({ text }) => text)).toContain(
      'Switch the 10 dB pad of Kern 40 on.',
    );
  });

  it('keeps matched noise where only distance changes by make-up gain', () => {
    // A microphone whose own noise rules: twice as far is 6.02 dB more noise at one loudness.
    const noisy = gear('Moor D1', 'microphone', {
      type: 'condenser',
      sensitivityDb: -30,
      selfNoiseDba: 30,
      outputImpedanceOhm: 50,
      patterns: ['omni'],
    });
    const at = (distanceM: number) =>
      walkChain([item(noisy), item(preamp), item(converter)], { ...VOICE, distanceM })
        .matchedNoiseDba ?? 0;
    expect(at(0.5) - at(0.25)).toBeCloseTo(6.02, 1);
    expect(at(1)).toBeCloseTo(30, 0);
  });

  it('loads through transformers, and multiplies by the turns', () => {
    const step = gear('Rund 10', 'transformer', {
      turnsRatio: 2,
      insertionLossDb: 1,
      inputImpedanceOhm: 1_000_000_000,
    });
    const plain = walkChain([item(ribbon), item(preamp)], VOICE);
    const through = walkChain([item(ribbon), item(step), item(preamp)], VOICE);
    expect(through.loading?.loadOhm).toBeCloseTo(375, 0);
    const [, mic, transformer] = through.stages;
    expect(transformer!.signalDb - mic!.signalDb).toBeCloseTo(6.0206 - 1, 2);
    expect(plain.incomplete).toContain('does not end in a converter');
  });

  it('tells the load with and without a splitter', () => {
    const split = gear('Zwirn', 'transformer', { turnsRatio: 1, inputImpedanceOhm: 3000 });
    // 1500 beside 3000 Ω is 1000 Ω: 300 Ω lose 2.28 dB there, 1.58 dB without.
    expect(loadingNotes([item(ribbon), item(split), item(preamp)], VOICE)).toEqual([
      'Loading: 1000 Ω takes 2.3 dB and bends the response by 0.0 dB.',
      'Without Zwirn: 1500 Ω takes 1.6 dB and bends the response by 0.0 dB.',
    ]);
  });

  it('says what it assumed, and what it cannot work out', () => {
    const bare = walkChain(
      [
        item(gear('X', 'microphone', {})),
        item(gear('Y', 'preamp', {})),
        item(gear('Z', 'converter', {})),
      ],
      VOICE,
    );
    expect(bare.incomplete).toBeNull();
    expect(bare.assumed).toEqual(
      expect.arrayContaining([
        'X: cardioid',
        'X: sensitivity -36 dB re 1 V/Pa',
        'X: self-noise 16 dBA',
        'Y: EIN -125 dBu',
        'Z: dynamic range 110 dB',
      ]),
    );
    expect(walkChain([item(preamp)], VOICE).incomplete).toContain(
      'does not begin with a microphone',
    );
    expect(walkChain([item(ribbon), item(ribbon)], VOICE).incomplete).toContain('blend');
  });

  it('sets gain by steps and knob positions', () => {
    expect(settableGainDb({ minGainDb: 10, maxGainDb: 66, gainStepDb: 3 }, 59.8)).toBe(58);
    const knob = [7, 20, 35, 50].map((gainDb, i) => ({ position: String(i), gainDb }));
    expect(settableGainDb({ knob }, 44)).toBe(35);
    expect(settableGainDb({ knob }, 90)).toBe(50);
    expect(settableGainDb({ knob }, -20)).toBe(7);
    const set = walkChain(
      [
        item(ribbon),
        item(gear('K', 'preamp', { knob, inputImpedanceOhm: 1500 }), { knobPosition: '2' }),
      ],
      VOICE,
    );
    expect(set.stages[2]!.gainDb).toBe(35);
  });
});

describe('what the ladder says', () => {
  const gainOf = (ladder: ReturnType<typeof walkChain>) =>
    ladder.stages.find(({ kind }) => kind === 'preamp')?.gainDb ?? Number.NaN;

  it('names the gain that stands in its table, whatever steps the knob has and whatever loads it', () => {
    const stepped = gear('Stufe 5', 'preamp', { ...preamp.specs, gainStepDb: 5 });
    const loaded = { ...gear('Last', 'pad', { attenuationDb: 3, outputImpedanceOhm: 900 }) };
    for (const chain of [
      [item(ribbon), item(preamp), item(converter)],
      [item(ribbon), item(stepped), item(converter)],
      [item(ribbon), item(loaded), item(preamp), item(converter)],
    ]) {
      const ladder = walkChain(chain, VOICE);
      const said = /with ([\d.]+) dB/.exec(ladderFinding(ladder))?.[1];
      expect(said).toBe(gainOf(ladder).toFixed(1));
    }
    // 900 Ω into 1500 Ω: 4.08 dB less than the gain makes of it, said beside it.
    const behind = walkChain([item(ribbon), item(loaded), item(preamp), item(converter)], VOICE);
    const stages = behind.stages.filter(({ kind }) => kind === 'pad' || kind === 'preamp');
    expect(stages[1]!.signalDb - stages[0]!.signalDb).toBeCloseTo(gainOf(behind) - 4.08, 2);
    expect(stages[1]!.remark).toBe('-4.1 dB by loading');
  });

  it('says when what is set by hand does not reach the level, or goes beyond it', () => {
    const needed =
      walkChain([item(ribbon), item(preamp), item(converter)], VOICE).gainNeededDb ?? 0;
    const said = (gainDb: number) =>
      ladderFinding(walkChain([item(ribbon), item(preamp, { gainDb }), item(converter)], VOICE));
    expect(said(needed - 12)).toContain('it comes 12.0 dB under level');
    expect(said(needed + 4)).toContain('it comes 4.0 dB over level');
    expect(said(needed + 0.4)).toContain('Reaches level with');
  });
});

describe('cost', () => {
  const list = new Map(
    [
      gear('mic', 'microphone', {}, { priceCents: 50_000, accessoryIds: ['mount', 'supply'] }),
      gear('mount', 'accessory', {}, { priceCents: 9_000 }),
      gear('supply', 'accessory', {}, { priceCents: null }),
      gear('pre', 'preamp', {}, { priceCents: 120_000, accessoryIds: ['mount'] }),
      gear('round', 'accessory', {}, { accessoryIds: ['trip'] }),
      gear('trip', 'accessory', {}, { accessoryIds: ['round'] }),
    ].map((one) => [one.id, one]),
  );

  it('counts accessories, each item once, and says what has no price', () => {
    const cost = chainCost(['mic', 'pre'], list);
    expect(cost.totalCents).toBe(179_000);
    expect(cost.unpriced).toEqual(['supply']);
    expect(cost.lines.map(({ name }) => name)).toEqual(['mic', 'mount', 'supply', 'pre']);
    // Two chains that share the preamp and its mount.
    expect(setCost([cost, chainCost(['pre'], list)]).allCents).toBe(179_000);
    expect(() => chainCost(['round'], list)).toThrow(CircularAccessoryError);
  });

  it('buys what is not here, and counts what is typed in', () => {
    const owned = new Map(list).set('pre', {
      ...gear('pre', 'preamp', {}, { priceCents: 120_000, accessoryIds: ['mount'] }),
      here: true,
    });
    const cost = chainCost(['mic', 'pre'], owned);
    expect(setCost([cost])).toEqual({ allCents: 179_000, toBuyCents: 59_000 });
    expect(setCost([cost], [7_000, 500])).toEqual({ allCents: 186_500, toBuyCents: 66_500 });
    expect(setCost([], [])).toEqual({ allCents: 0, toBuyCents: 0 });
  });

  it('counts the second microphone of a pair, once in the whole set', () => {
    const pair = chainCost(['mic', 'pre'], list, 'mic');
    expect(pair.totalCents).toBe(179_000 + 50_000);
    expect(pair.lines.at(-1)).toMatchObject({ name: 'second mic', priceCents: 50_000 });
    expect(setCost([pair, chainCost(['mic'], list), pair]).allCents).toBe(229_000);
  });

  it('puts totals into brackets and finds partners', () => {
    expect([10_000, 25_000, 179_000, 900_000].map(bracketOf)).toEqual([
      'under 250',
      '250 to 500',
      '1000 to 2000',
      '8000 and more',
    ]);
    expect(equalCostPairs([100, 200, 105, 98], 0.05)).toEqual([
      { a: 0, b: 3, differenceCents: 2 },
      { a: 0, b: 2, differenceCents: 5 },
    ]);
  });
});

describe('fairness', () => {
  const chain = (
    name: string,
    mic: GearItem,
    pre: GearItem,
    more: Partial<PlannedChain> = {},
  ): PlannedChain => ({
    id: name,
    name,
    items: [item(mic), item(pre), item(converter)],
    distanceM: 0.24,
    angleDeg: 0,
    capture: 'one microphone',
    ...more,
  });

  it('tells pairs that change one thing from pairs that change more, and what grid is missing', () => {
    const moor = gear('Moor D1', 'microphone', {});
    const result = fairness([
      chain('Otter', ribbon, preamp),
      chain('Quill', moor, short),
      chain('Reed', ribbon, short),
    ]);
    expect(result.unfair.map(({ text }) => text)).toEqual([
      'Two things change between Otter and Quill: microphone and preamp.',
    ]);
    expect(result.fairPairs).toEqual([
      { a: 'Otter', b: 'Reed', what: 'preamp' },
      { a: 'Quill', b: 'Reed', what: 'microphone' },
    ]);
    expect(result.missing).toEqual([{ microphone: 'Moor D1', preamp: 'Linie 2' }]);
  });

  it('sees settings and places, and leaves gain out', () => {
    const a = chain('A', ribbon, preamp);
    const b = {
      ...chain('B', ribbon, preamp),
      distanceM: 0.3,
      items: [item(ribbon, { highPassHz: 80 }), item(preamp, { gainDb: 40 }), item(converter)],
    };
    expect(fairness([a, b]).unfair[0]!.text).toBe(
      'Two things change between A and B: high-pass of Ostra R1 and distance.',
    );
    const pair = chain('D', ribbon, preamp, { capture: 'pair, 17 cm, 110°' });
    expect(fairness([a, pair]).fairPairs).toEqual([{ a: 'A', b: 'D', what: 'way of capture' }]);
    const turned = chain('E', ribbon, preamp, { angleDeg: 45, capture: 'pair, 17 cm, 110°' });
    expect(fairness([a, turned]).unfair[0]!.text).toBe(
      'Two things change between A and E: way of capture and angle.',
    );
    expect(fairness([a, { ...chain('C', ribbon, preamp) }]).same).toEqual([{ a: 'A', b: 'C' }]);
  });
});

it('finds specs that contradict themselves', () => {
  expect(contradictions({ selfNoiseDba: 20, maxSplDb: 130 })).toEqual([]);
  expect(contradictions({ selfNoiseDba: 140, maxSplDb: 130 })[0]).toContain(
    'not below the max SPL',
  );
  expect(contradictions({ minGainDb: 20, maxGainDb: 10 })[0]).toContain('above the most');
});
