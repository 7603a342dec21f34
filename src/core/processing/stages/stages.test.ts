import { soundOf } from '@/core/signal/sound';
import { amplitudeToDb } from '@/core/signal/units';
import { passed } from '@/core/test/passed';
import { rms, sine, xorshiftNoise } from '@/core/test/signals';
import {
  offsetOf,
  STAGE_KINDS,
  stageKindOf,
  type StageSettings,
  stageSettings,
  stagesOf,
  stagesWords,
  startOf,
} from '.';
import { processStages } from '../process';
import { MILD_PROCESSING, NO_PROCESSING } from '../settings';
import type { StagePlace } from './stage-kind';

const RATE = 48000;
const CHAIN = '6f1b9d8e-0c53-4d0b-9a3f-3d2a3c1b7e10';
const noise = xorshiftNoise(5, 0.2, RATE);

const place = (samples: Float64Array): StagePlace => ({
  channels: 1,
  sampleRateHz: RATE,
  sound: () => soundOf([samples]),
  clipOf: () => soundOf([samples]),
  onToning: () => undefined,
});
const through = (samples: Float64Array, ...stages: StageSettings[]) =>
  passed(
    [samples],
    stages.flatMap((stage) => stageKindOf(stage).make(place(samples), stage)),
  )[0]!;
const gainAt = (hz: number, stage: StageSettings) => {
  const tone = sine(hz, RATE, 2, 0.01);
  return amplitudeToDb(rms(through(tone, stage).subarray(RATE)) / rms(tone.subarray(RATE)));
};

it.each(STAGE_KINDS.map((kind) => [kind.id, kind] as const))(
  '%s begins with settings that are allowed, makes sound, and says what it is',
  (id, kind) => {
    const start = startOf(kind, CHAIN);
    expect(stageSettings.parse(start)).toEqual(start);
    const out = through(noise, start);
    expect(out.length).toBe(noise.length);
    expect(out.every(Number.isFinite)).toBe(true);
    const words = stagesWords([start], () => 'Moor');
    expect(words).not.toMatch(/undefined|NaN|^$/);
    if (kind.towards !== null) expect(words).toContain('Moor');
    // Every limit can be set, and nothing beyond it.
    for (const [key, { least, most }] of Object.entries(kind.figures)) {
      for (const value of [least, most]) {
        const limit = { ...start, [key]: value };
        expect(stageSettings.parse(limit)).toEqual(limit);
        expect(through(noise, stageSettings.parse(limit)).every(Number.isFinite)).toBe(true);
      }
      for (const value of [least - 1, most + 1, NaN, '3', null]) {
        expect(stageSettings.safeParse({ ...start, [key]: value }).success).toBe(false);
      }
    }
    for (const key of Object.keys(kind.choices)) {
      expect(stageSettings.safeParse({ ...start, [key]: id }).success).toBe(false);
    }
    expect(stageSettings.safeParse({ ...start, extra: 1 }).success).toBe(false);
  },
);

it('refuses what is no processing with a sentence', () => {
  const told = (value: unknown) => stageSettings.safeParse(value).error?.issues[0]?.message;
  expect(told({ kind: 'reverb' })).toBe('There is no such processing.');
  expect(told({ kind: 'saturation', driveDb: 60, curve: 'symmetric' })).toBe(
    'drive, dB is at most 24.',
  );
  expect(told({ kind: 'tone-match', phase: 'minimum', smoothing: 'third', limitDb: 9 })).toBe(
    'Choose the other chain.',
  );
});

it('does what the processing of a context does, stage by stage', () => {
  const stages = stagesOf(MILD_PROCESSING);
  expect(stages.map(({ kind }) => kind)).toEqual([
    'high-pass',
    ...Array.from({ length: 4 }, () => 'equaliser'),
    'compressor',
    'de-esser',
  ]);
  expect(stagesOf(NO_PROCESSING)).toEqual([]);
  const alike = passed([noise], processStages(1, RATE, MILD_PROCESSING))[0]!;
  const own = through(noise, ...stages);
  expect(rms(own.map((x, n) => x - alike[n]!))).toBeLessThan(1e-9 * rms(alike));
  expect(through(noise)).toEqual(passed([noise], processStages(1, RATE, NO_PROCESSING))[0]);
});

it('a band lifts by what it says, at its middle', () => {
  const bell = { kind: 'equaliser', shape: 'bell', hz: 2000, q: 1, db: -4 } as const;
  expect(gainAt(2000, bell)).toBeCloseTo(-4, 2);
  expect(gainAt(50, bell)).toBeCloseTo(0, 1);
});

it('a level on purpose is no stage: it is set by the match', () => {
  const stages = [
    { kind: 'level', db: 0.5 },
    { kind: 'high-pass', hz: 80 },
    { kind: 'level', db: -0.2 },
  ] as const;
  expect(offsetOf(stages)).toBeCloseTo(0.3, 12);
  expect(through(noise, { kind: 'level', db: 2 })).toEqual(noise);
  expect(stagesWords(stages, () => '')).toBe(
    '+0.5 dB on purpose, high-pass 80 Hz, −0.2 dB on purpose',
  );
});
