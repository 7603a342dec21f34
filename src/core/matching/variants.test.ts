import { measure } from '@/core/loudness/meter';
import { MILD_PROCESSING } from '@/core/processing/settings';
import type { StageSettings } from '@/core/processing/stages';
import { designBiquad, filterInPlace } from '@/core/signal/biquad';
import { framesOf, soundOf } from '@/core/signal/sound';
import { amplitudeToDb } from '@/core/signal/units';
import { rms, sine, xorshiftNoise } from '@/core/test/signals';
import { FloatClip } from '@/core/wav/float-clip';
import { decodeWav } from '@/core/wav/read';
import { alignAll, type AlignedClip, inMemory } from './align';
import { processOf } from './contexts';
import { matchAligned, type MatchPlan } from './match';
import { roundedWav } from './rounded';
import { throughOwnStages } from './variants';

const RATE = 48000;
const phrase = filterInPlace(xorshiftNoise(21, 0.4, RATE * 6), [
  designBiquad('lowpass', 4000, RATE, 0.7),
]).map((x, n) => x * (0.4 + 0.3 * Math.sin(n / 9000)));
const dark = filterInPlace(phrase.slice(), [designBiquad('highshelf', 1500, RATE, 0.7, -6)]).map(
  (x) => 0.4 * x,
);

interface Part {
  name: string;
  samples: Float64Array;
  stages: StageSettings[];
}

const raw: Part = { name: 'Linden', samples: phrase, stages: [] };
const other: Part = { name: 'Moor', samples: dark, stages: [] };

async function aligned(parts: readonly Part[]): Promise<AlignedClip<FloatClip>[]> {
  const plan = {
    sampleRateHz: RATE,
    takes: parts.map(({ name, samples }) => ({
      name,
      sound: soundOf([samples]),
      alignment: { by: 'performance' } as const,
    })),
    reference: 0,
    passage: { from: RATE, to: 5 * RATE },
    withTone: false,
    withLoudness: true,
  };
  return alignAll(plan, inMemory(RATE));
}

const variantsOf = (parts: readonly Part[]) =>
  parts.map(({ name, stages }) => ({ name, chainId: name, stages }));

async function heard(parts: readonly Part[], change: Partial<MatchPlan> = {}) {
  const clips = throughOwnStages(variantsOf(parts), await aligned(parts), RATE, inMemory(RATE));
  const plan: MatchPlan = {
    sampleRateHz: RATE,
    takes: parts.map(({ name, stages }) => ({
      name,
      onPurposeDb: stages.find((stage) => stage.kind === 'level')?.db,
    })),
    reference: 0,
    method: 'loudness',
    fadeS: 0.01,
    seed: 3,
    ...change,
  };
  const made = matchAligned(plan, clips, (i) =>
    FloatClip.empty(1, clips[i]!.sound.frames - clips[i]!.lead, RATE),
  );
  const bytes = await Promise.all(
    made.clips.map(({ sound, ditherSeed }) => decodeWav(roundedWav(sound, RATE, ditherSeed))),
  );
  return {
    made,
    clips: bytes.map(({ channels }) => channels[0]!),
    lufs: bytes.map(({ channels, header }) => measure(channels, header.format).integratedLufs!),
  };
}

it('raw, processed and tone-matched clips of one chain meet at one loudness, on the bytes', async () => {
  const { lufs, made } = await heard([
    raw,
    other,
    { ...raw, name: 'thin', stages: [{ kind: 'high-pass', hz: 300 }] },
    {
      ...raw,
      name: 'squeezed',
      stages: [
        { kind: 'equaliser', shape: 'bell', hz: 1000, q: 1, db: 6 },
        { kind: 'compressor', thresholdDb: -6, ratio: 4, kneeDb: 0, attackMs: 5, releaseMs: 80 },
        { kind: 'saturation', driveDb: 0, curve: 'asymmetric' },
      ],
    },
  ]);
  for (const level of lufs) expect(Math.abs(level - lufs[0]!)).toBeLessThan(0.01);
  expect(made.worstResidualLu).toBeLessThan(0.05);
});

it('a level on purpose survives the match, on the bytes, and nothing else moves', async () => {
  const { lufs } = await heard([
    raw,
    { ...raw, name: 'louder', stages: [{ kind: 'level', db: 0.5 }] },
    { ...raw, name: 'quieter', stages: [{ kind: 'level', db: -1.2 }] },
    other,
  ]);
  expect(lufs[1]! - lufs[0]!).toBeCloseTo(0.5, 2);
  expect(lufs[2]! - lufs[0]!).toBeCloseTo(-1.2, 2);
  expect(lufs[3]! - lufs[0]!).toBeCloseTo(0, 2);
});

it('stages are passed in their order, and the lead goes through them, too', async () => {
  const crushed: StageSettings = {
    kind: 'compressor',
    thresholdDb: -20,
    ratio: 20,
    kneeDb: 0,
    attackMs: 200,
    releaseMs: 2000,
  };
  const boost: StageSettings = { kind: 'equaliser', shape: 'bell', hz: 500, q: 2, db: 18 };
  const parts = [
    raw,
    { ...raw, name: 'a', stages: [crushed, boost] },
    { ...raw, name: 'b', stages: [boost, crushed] },
  ];
  const [clip, a, b] = throughOwnStages(
    variantsOf(parts),
    await aligned(parts),
    RATE,
    inMemory(RATE),
  );
  const [x, y] = [a!, b!].map(({ sound }) => framesOf(sound, RATE, RATE)[0]!) as [
    Float64Array,
    Float64Array,
  ];
  expect(rms(x.map((value, n) => value - y[n]!))).toBeGreaterThan(0.1 * rms(x));
  expect([a!.lead, a!.sound.frames]).toEqual([RATE, clip!.sound.frames]);
  // One that began with the passage would let its first moment through; this one began a second before.
  const gainAt = (second: number) => {
    const [made, plain] = [a!, clip!].map(({ sound }) => framesOf(sound, second * RATE, 480)[0]!);
    return amplitudeToDb(rms(made!) / rms(plain!));
  };
  expect(gainAt(0)).toBeGreaterThan(-3);
  expect(gainAt(1)).toBeLessThan(-10);
});

it('a tone match gives the other chain’s balance, and says what it did', async () => {
  const toned: StageSettings = {
    kind: 'tone-match',
    chainId: 'Moor',
    phase: 'minimum',
    smoothing: 'third',
    limitDb: 12,
  };
  const parts = [raw, other, { ...raw, name: 'like Moor', stages: [toned] }];
  const told: [number, { centerHz: number; db: number }[]][] = [];
  throughOwnStages(variantsOf(parts), await aligned(parts), RATE, inMemory(RATE), (i, bands) =>
    told.push([i, bands]),
  );
  expect(told.map(([i]) => i)).toEqual([2]);
  const db = (hz: number) => told[0]![1].find(({ centerHz }) => centerHz === hz)!.db;
  // The shelf that made Moor dark: all of its 6 dB far above its corner, nothing far below.
  expect(db(6300) - db(200)).toBeCloseTo(-6, 0);
  const { clips } = await heard(parts);
  const high = (samples: Float64Array) =>
    amplitudeToDb(
      rms(filterInPlace(samples.slice(), [designBiquad('highpass', 3000, RATE, 0.7)])) /
        rms(samples),
    );
  expect(Math.abs(high(clips[2]!) - high(clips[1]!))).toBeLessThan(0.5);
  expect(high(clips[0]!) - high(clips[1]!)).toBeGreaterThan(2);
});

it('a tone of a chain that has no clip here is refused by name', async () => {
  const parts = [
    raw,
    {
      ...raw,
      name: 'lost',
      stages: [
        {
          kind: 'tone-match',
          chainId: 'gone',
          phase: 'minimum',
          smoothing: 'third',
          limitDb: 9,
        } as const,
      ],
    },
  ];
  await expect(heard(parts)).rejects.toThrow('lost takes its tone from a chain without a clip');
});

it('silence cannot be processed, and says so', async () => {
  const [clip] = await aligned([raw]);
  const silent = { ...clip!, loudness: null };
  expect(() =>
    throughOwnStages(
      [{ name: 'none', chainId: 'none', stages: [{ kind: 'high-pass', hz: 80 }] }],
      [silent],
      RATE,
      inMemory(RATE),
    ),
  ).toThrow('silent');
});

it('what a printed tone says holds after processing: the clip keeps its level against its tone', async () => {
  // Two chains whose tones were printed at the same programme level differ by their gain alone.
  const tone = (gain: number) => amplitudeToDb(gain * rms(sine(1000, RATE, 1, 0.1)));
  const parts = [raw, { ...raw, name: 'half', samples: phrase.map((x) => 0.25 * x) }];
  const clips = (await aligned(parts)).map((clip, i) => ({
    ...clip,
    toneDbfs: tone(i === 0 ? 1 : 0.25),
  }));
  const made = (process: MatchPlan['process']) =>
    matchAligned(
      {
        sampleRateHz: RATE,
        takes: parts,
        reference: 0,
        method: 'tone',
        fadeS: 0.01,
        seed: 1,
        process,
      },
      clips,
      (i) => FloatClip.empty(1, clips[i]!.sound.frames - clips[i]!.lead, RATE),
    ).clips.map(({ afterLufs }) => afterLufs!);
  const [a, b] = made(undefined) as [number, number];
  expect(a - b).toBeCloseTo(0, 2);
  const [c, d] = made(processOf({ kind: 'alike', settings: MILD_PROCESSING }, RATE)) as [
    number,
    number,
  ];
  expect(c - d).toBeCloseTo(0, 2);
});

describe('at the same gain', () => {
  const quiet: Part = { ...raw, name: 'quiet', samples: phrase.map((x) => 0.25 * x) };
  const atGain = async (parts: readonly Part[], gainsDb: readonly (number | undefined)[]) =>
    heard(parts, {
      method: 'gain',
      takes: parts.map(({ name }, i) => ({ name, recordedGainDb: gainsDb[i] })),
    });

  it('clips stand to each other as the chains would, side by side at one gain', async () => {
    // Both 12 dB apart in the file; the second was recorded at 6 dB more, so it is 18 dB quieter.
    const { lufs, made } = await atGain([raw, quiet], [30, 36]);
    expect(lufs[0]! - lufs[1]!).toBeCloseTo(20 * Math.log10(4) + 6, 2);
    expect(made.worstResidualLu).toBeLessThan(0.05);
    expect(made.clips[0]!.gainDb - made.clips[1]!.gainDb).toBeCloseTo(6, 9);
  });

  it('no clip is louder than is safe, and peaks still bound what has many', async () => {
    const { lufs, made } = await atGain([raw, quiet], [30, 30]);
    expect(Math.max(...lufs)).toBeCloseTo(-20, 2);
    expect(made.limitedBy).toBeNull();
    const clicks = phrase.map((x, n) => (n % 24_000 === 0 ? 0.999 : 0.02 * x));
    const sharp = { ...raw, name: 'sharp', samples: clicks };
    const peaky = await atGain([sharp, { ...sharp, name: 'same' }], [30, 30]);
    expect(Math.max(...peaky.lufs)).toBeLessThan(-20.5);
    expect(peaky.made.limitedBy).toBe('sharp');
    for (const { truePeakDbtp } of peaky.made.clips) expect(truePeakDbtp).toBeLessThanOrEqual(-1);
  });

  it('a gain that nobody wrote down is asked for, by name', async () => {
    await expect(atGain([raw, quiet], [30, undefined])).rejects.toThrow(
      'nothing says at which gain quiet was recorded',
    );
  });
});
