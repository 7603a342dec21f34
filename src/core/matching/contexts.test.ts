import { MILD_PROCESSING } from '@/core/processing/settings';
import { designBiquad, filterInPlace } from '@/core/signal/biquad';
import { readAt } from '@/core/signal/interpolation';
import { soundOf } from '@/core/signal/sound';
import { DEFAULT_TONE_MATCH } from '@/core/spectrum/tone-match';
import { rms, xorshiftNoise } from '@/core/test/signals';
import { measure } from '@/core/loudness/meter';
import { decodeWav } from '@/core/wav/read';
import { type AlignTake, inMemory } from './align';
import { type Context, processOf } from './contexts';
import { matchClips, type TakesPlan } from './match';
import { roundedWav } from './rounded';

const RATE = 48000;
const phrase = filterInPlace(xorshiftNoise(11, 0.4, RATE * 8), [
  designBiquad('lowpass', 2500, RATE, 0.7),
]).map((x, n) => x * (0.4 + 0.3 * Math.sin(n / 9000)));
const bright = filterInPlace(readAt(phrase, -20.5, phrase.length), [
  designBiquad('highshelf', 3000, RATE, 0.7, 6),
]).map((x) => 0.3 * x);
const backing = soundOf([xorshiftNoise(12, 0.2, RATE * 6)]);

function planOf(context: Context): TakesPlan & { takes: AlignTake[] } {
  return {
    sampleRateHz: RATE,
    takes: [phrase, bright].map((samples, i) => ({
      name: ['dull', 'bright'][i]!,
      sound: soundOf([samples]),
      alignment: { by: 'performance' },
    })),
    reference: 0,
    passage: { from: RATE, to: 7 * RATE },
    method: 'loudness',
    fadeS: 0.01,
    process: processOf(context, RATE),
    seed: 1,
  };
}

const match = (plan: TakesPlan) => matchClips(plan, inMemory(RATE));

const CONTEXTS: Context[] = [
  { kind: 'raw' },
  { kind: 'alike', settings: MILD_PROCESSING },
  { kind: 'tailored', settings: [MILD_PROCESSING, { ...MILD_PROCESSING, highPassHz: 120 }] },
  { kind: 'mix', backing, balanceDb: -3 },
  { kind: 'toned', settings: DEFAULT_TONE_MATCH },
];

it.each(CONTEXTS.map((c) => [c.kind, c] as const))(
  'the match is made and verified again: %s',
  async (_, context) => {
    const { clips, worstResidualLu } = await match(planOf(context));
    expect(worstResidualLu).toBeLessThanOrEqual(0.05);
    const levels = await Promise.all(
      clips.map(async ({ sound, ditherSeed }) => {
        const { header, channels } = await decodeWav(roundedWav(sound, RATE, ditherSeed));
        expect(channels[0]!.length).toBe(6 * RATE);
        return measure(channels, header.format).integratedLufs ?? 0;
      }),
    );
    expect(Math.abs(levels[0]! - levels[1]!)).toBeLessThan(0.05);
  },
);

it('in the mix, everyone gets the same backing: the difference of clips holds none of it', async () => {
  const alike = planOf({ kind: 'mix', backing, balanceDb: 0 });
  alike.takes[1] = { ...alike.takes[0]!, name: 'again' };
  const { clips } = await match(alike);
  const [one, two] = clips.map(({ sound }) => sound.unpacked()[0]);
  const difference = one!.map((x, n) => x - two![n]!);
  expect(rms(difference) / rms(one!)).toBeLessThan(1e-3);
});

it('by hand, the clip stands over the others by the offset', async () => {
  const plan = planOf({ kind: 'raw' });
  plan.method = 'hand';
  plan.takes[1]!.offsetDb = 1.5;
  const { clips } = await match(plan);
  expect(clips[1]!.afterLufs! - clips[0]!.afterLufs!).toBeCloseTo(1.5, 2);
  expect(Math.abs(clips[1]!.residualLu)).toBeLessThan(0.05);
});

describe('blends', () => {
  const late = readAt(phrase, -48, phrase.length).map((x) => -0.5 * x);
  const blended = async (
    timing: 'aligned' | 'as recorded',
    polarity: 'corrected' | 'as recorded',
  ) => {
    const plan = planOf({ kind: 'raw' });
    plan.takes[1] = {
      name: 'both',
      sound: soundOf([phrase]),
      alignment: { by: 'performance' },
      blend: { sound: soundOf([late]), otherDb: 0, timing, polarity },
    };
    const { clips } = await match(plan);
    return clips[1]!;
  };

  it('aligned and corrected, two equal chains add up to the same clip', async () => {
    const { blend, sound } = await blended('aligned', 'corrected');
    expect(blend).toMatchObject({ polarityInverted: true, leftSamples: 0, leftInverted: false });
    expect(blend?.delaySamples).toBeCloseTo(48, 1);
    const { clips } = await match(planOf({ kind: 'raw' }));
    const [both, alone] = [sound, clips[0]!.sound].map((clip) => clip.unpacked()[0]!) as [
      Float64Array,
      Float64Array,
    ];
    const difference = both.map((x, n) => x - alone[n]!);
    expect(rms(difference) / rms(both)).toBeLessThan(0.01);
  });

  it('as recorded, what is left is told: a millisecond, turned over', async () => {
    const { blend } = await blended('as recorded', 'as recorded');
    expect(blend?.leftSamples).toBeCloseTo(48, 1);
    expect(blend?.leftInverted).toBe(true);
  });
});
