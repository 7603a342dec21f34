import { TASKS } from '@/core/tasks';
import { findAlignment } from '@/core/alignment/delay';
import { soundOf } from '@/core/signal/sound';
import { aWeightingDb } from '@/core/signal/a-weighting';
import { responseDb } from '@/core/signal/biquad';
import { Random } from '@/core/signal/random';
import { powerToDb, speedOfSoundMps } from '@/core/signal/units';
import { performance } from './instruments';
import type { TrialDesign } from '@/core/tasks/task';
import { type Character, characterOf, type SimulatedListener, simulatedPanel } from './listeners';
import { type MicrophoneModel, MICROPHONES, proximitySection } from './microphones';
import { randomEnergyEfficiency } from '@/core/chain/acoustics';
import { type PreampModel, PREAMPS } from './preamps';
import { recordTake, type RecordingSetup, SMALL_STUDIO, suggestedGainDb } from './record';

const RATE = 16000;
const [kern, , ostra] = MICROPHONES as [MicrophoneModel, MicrophoneModel, MicrophoneModel];
const [linie, tarn] = PREAMPS as [PreampModel, PreampModel];
const setup: RecordingSetup = {
  microphone: kern,
  preamp: linie,
  gainDb: 40,
  distanceM: 0.3,
  angleDeg: 0,
  room: SMALL_STUDIO,
  polarityInverted: false,
  seed: 5,
};

function meanSquareDb(samples: Float64Array): number {
  return powerToDb(samples.reduce((sum, x) => sum + x * x, 0) / samples.length);
}

it('weighs as IEC 61672 tabulates', () => {
  const table = [
    [31.5, -39.4],
    [125, -16.1],
    [1000, 0],
    [4000, 1.0],
    [16000, -6.6],
  ];
  for (const [hz, db] of table) expect(aWeightingDb(hz!)).toBeCloseTo(db!, 0);
});

describe('instruments', () => {
  it('play from a seed, and another seed is another performance', () => {
    const once = performance('clarinet', RATE, 3);
    expect(performance('clarinet', RATE, 3)).toEqual(once);
    const again = performance('clarinet', RATE, 4);
    expect(findAlignment(soundOf([once]), soundOf([again]), RATE).coherence).toBeLessThan(0.35);
  });

  it.each([
    ['contralto', 78],
    ['cello', 76],
    ['clarinet', 77],
  ] as const)('%s reaches its sound pressure level at 1 m', (name, level) => {
    const pressure = performance(name, RATE, 1);
    let loudest = -Infinity;
    for (let at = 0; at + 12000 <= pressure.length; at += 12000) {
      loudest = Math.max(loudest, meanSquareDb(pressure.subarray(at, at + 12000)));
    }
    expect(loudest - 20 * Math.log10(2e-5)).toBeCloseTo(level, 6);
  });
});

describe('microphones', () => {
  it('are at least six, of several kinds, with names of their own', () => {
    expect(new Set(MICROPHONES.map((m) => m.name)).size).toBeGreaterThanOrEqual(6);
    expect(new Set(MICROPHONES.map((m) => m.kind)).size).toBe(4);
  });

  it('take a third of diffuse sound in power with a cardioid and a figure-eight', () => {
    expect(randomEnergyEfficiency(kern.pattern)).toBeCloseTo(1 / 3, 9);
    expect(randomEnergyEfficiency(ostra.pattern)).toBeCloseTo(1 / 3, 9);
  });

  it('rise at the low end after the spherical wave', () => {
    // Figure-eight at distance d: |1 + c/(jωd)| against the distance at which it is flat.
    const gain = (d: number, hz: number) =>
      10 * Math.log10(1 + (speedOfSoundMps(20) / (2 * Math.PI * hz * d)) ** 2);
    for (const hz of [60, 100, 400]) {
      const got = responseDb([proximitySection(ostra, 0.2, 0, 48000)], hz, 48000);
      expect(got).toBeCloseTo(gain(0.2, hz) - gain(ostra.flatAtM, hz), 2);
    }
    expect(responseDb([proximitySection(ostra, ostra.flatAtM, 0, 48000)], 50, 48000)).toBeCloseTo(
      0,
    );
  });
});

describe('recordings', () => {
  const pressure = performance('clarinet', RATE, 1);

  it('are the same again from the same seed', () => {
    expect(recordTake(pressure, RATE, setup)).toEqual(recordTake(pressure, RATE, setup));
  });

  it('arrive later from further away, by the speed of sound', () => {
    const near = recordTake(pressure, RATE, setup);
    const far = recordTake(pressure, RATE, { ...setup, distanceM: 0.6, seed: 6 });
    const { delaySamples, polarityInverted } = findAlignment(soundOf([near]), soundOf([far]), RATE);
    expect(delaySamples).toBeCloseTo((0.3 / speedOfSoundMps(20)) * RATE, 0);
    expect(polarityInverted).toBe(false);
  });

  it('follow gain and polarity', () => {
    const plain = recordTake(pressure, RATE, setup);
    const other = recordTake(pressure, RATE, { ...setup, gainDb: 34, polarityInverted: true });
    expect(meanSquareDb(plain) - meanSquareDb(other)).toBeCloseTo(6, 1);
    expect(findAlignment(soundOf([plain]), soundOf([other]), RATE).polarityInverted).toBe(true);
  });

  it('hold the noise that the figures promise', () => {
    const silence = new Float64Array(RATE * 2);
    const quiet = { ...SMALL_STUDIO, noiseDba: -40 };
    const noise = recordTake(silence, RATE, {
      ...setup,
      microphone: ostra,
      gainDb: 66,
      room: quiet,
    });
    // 17 dBA through -54 dB re 1 V/Pa is about -129 dBu; with the preamp's -127 dBu nearly -125.
    const dbfs = -125.2 + 66 - 18 - 3;
    expect(Math.abs(meanSquareDb(noise) - dbfs)).toBeLessThan(3);
  });

  it('never need more gain than the preamp has', () => {
    const parts = { microphone: ostra, preamp: linie, distanceM: 1 };
    expect(suggestedGainDb(60, parts)).toBe(linie.maxGainDb);
    expect(suggestedGainDb(78, { ...parts, microphone: kern, distanceM: 0.3 })).toBeLessThan(45);
  });
});

describe('listeners', () => {
  const taste = { warmth: 1, presence: 0, air: 0, colour: 0, noise: 0 };
  const warm = { ...characterOf(ostra, linie, 0.3), warmth: 3 };
  const thin = { ...warm, warmth: 1 };

  const pair = {
    kind: 'judged',
    right: null,
    slots: [0, 1].map((chain) => ({ chain, gainDb: 0 })),
  };
  const chooses = (
    listener: SimulatedListener,
    characters: Character[],
    tiesAllowed: boolean,
    trial: TrialDesign = pair as TrialDesign,
  ) => {
    const asked = { tiesAllowed, words: [], mean: warm };
    const answer = TASKS.pair.simulate(listener, { trial, characters, ...asked });
    return 'choice' in answer ? answer.choice : null;
  };

  it('choose as often as their model says', () => {
    const listener = simulatedPanel(1, taste, 0, 1)[0]!;
    listener.orderBias = 0.3;
    let [first, decided] = [0, 0];
    for (let i = 0; i < 20000; i++) {
      const choice = chooses(listener, [warm, thin], true);
      if (choice !== 'tie') decided++;
      if (choice === 'first') first++;
    }
    expect(first / decided).toBeCloseTo(1 / (1 + Math.exp(-2.3)), 1);
  });

  it('differ from each other and follow the seed', () => {
    const tastes = (seed: number) => simulatedPanel(3, taste, 0.4, seed).map((l) => l.taste.warmth);
    expect(new Set(tastes(1)).size).toBe(3);
    expect(tastes(1)).toEqual(tastes(1));
  });

  it('hear colour in the preamp that has it', () => {
    expect(characterOf(kern, tarn, 0.3).colour).toBeGreaterThan(
      characterOf(kern, linie, 0.3).colour,
    );
  });

  it('never tie when ties are not allowed', () => {
    const listener = simulatedPanel(1, taste, 0.3, 2)[0]!;
    listener.random = new Random(1);
    const choices = Array.from({ length: 500 }, () => chooses(listener, [warm, warm], false));
    expect(choices).not.toContain('tie');
  });

  it('follow loudness in the control that asks for it, and hear large differences', () => {
    const listener = simulatedPanel(1, taste, 0, 3)[0]!;
    listener.orderBias = 0;
    const louder: TrialDesign = {
      kind: 'louder',
      right: null,
      slots: [
        { chain: 0, gainDb: 1 },
        { chain: 0, gainDb: 0 },
      ],
    };
    const choices = Array.from({ length: 4000 }, () =>
      chooses(listener, [warm, warm], false, louder),
    );
    // Half a unit of log odds for one decibel.
    expect(choices.filter((one) => one === 'first').length / 4000).toBeCloseTo(
      1 / (1 + Math.exp(-0.5)),
      1,
    );
    const odd: TrialDesign = {
      kind: 'judged',
      right: 2,
      slots: [0, 0, 1].map((chain) => ({ chain, gainDb: 0 })),
    };
    const asked = { tiesAllowed: false, words: [], mean: warm };
    const right = (other: Character) =>
      Array.from({ length: 600 }, () =>
        TASKS.triangle.simulate(listener, {
          trial: odd,
          characters: [warm, warm, other],
          ...asked,
        }),
      ).filter((answer) => 'slot' in answer && answer.slot === 2).length / 600;
    expect(right(warm)).toBeCloseTo(1 / 3, 1);
    expect(right({ ...warm, warmth: 30 })).toBeGreaterThan(0.95);
  });
});
