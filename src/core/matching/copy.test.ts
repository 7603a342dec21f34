import { createHash } from 'node:crypto';
import { measure } from '@/core/loudness/meter';
import { trainingClips, trainingPhrases } from '@/core/simulation/training';
import { trainingVariant } from '@/core/simulation/training-sounds';
import { xorshiftNoise } from '@/core/test/signals';
import type { WavFormat } from '@/core/wav/format';
import { FloatClip } from '@/core/wav/float-clip';
import { decodeWav } from '@/core/wav/read';
import { COPY_GAIN_DB, type CopyPlan, servedCopy } from './copy';
import { MatchError } from './align';

/** Noise that falls off towards half the sample rate, as recordings do. */
const white = xorshiftNoise(8, 0.3, 48000 * 2);
const noise = white.map((x, n) => (x + (white[n - 1] ?? 0)) / 2);
const master = FloatClip.of([noise], 48000);
const FORMAT: WavFormat = {
  sampleRateHz: 48000,
  channels: 1,
  bitDepth: 32,
  encoding: 'float',
  channelMask: 0,
};
const levelOf = async (bytes: Uint8Array) => {
  const { header, channels } = await decodeWav(bytes);
  return measure(channels, header.format);
};

const trial = 'ab'.repeat(16);
const other = 'cd'.repeat(16);
const clipSeed = (n: number) => createHash('sha256').update(`clip ${n}`).digest('hex').slice(0, 32);
const level = measure(master.unpacked(), FORMAT).integratedLufs ?? 0;
const copy = (clip: number, change: Partial<CopyPlan> = {}, inTrial = trial) =>
  servedCopy(master, {
    seeds: { trial: inTrial, clip: clipSeed(clip) },
    levelLufs: level,
    gainDb: 0,
    ...change,
  });
const soundOf = async (bytes: Uint8Array) => (await decodeWav(bytes)).channels[0];
const power = (x: Float64Array) => x.reduce((sum, value) => sum + value * value, 0) / x.length;
const residue = (x: Float64Array, y: Float64Array) =>
  10 * Math.log10(power(x.map((value, n) => value - y[n]!)) / power(x));

describe('a served copy', () => {
  it('comes again from its seeds, and shares no bytes with another', () => {
    expect(Buffer.from(copy(5)).equals(Buffer.from(copy(5)))).toBe(true);
    expect(Buffer.from(copy(5)).equals(Buffer.from(copy(6)))).toBe(false);
    // All copies of a set are shorter by the same guard of 20 ms.
    expect(copy(5).length).toBe(44 + 3 * (noise.length - 960));
    expect(copy(6, {}, other).length).toBe(copy(5).length);
  });

  it('is in step with the others of its trial, and with no copy of another trial', async () => {
    const [a, b] = await Promise.all([copy(1), copy(2)].map(soundOf));
    // Up to 0.04 dB between them: 20 log10(10^(0.04/20) − 1) = −46.7 dB.
    expect(residue(a!, b!)).toBeLessThan(-46);
    const [c] = await Promise.all([copy(1, {}, other)].map(soundOf));
    expect(residue(a!, c!)).toBeGreaterThan(-10);
  });

  it('has a gain of its own, and neither peak nor power is another’s', async () => {
    const levels = [];
    for (let i = 1; i <= 40; i++) {
      const { integratedLufs } = await levelOf(copy(i));
      levels.push((integratedLufs ?? 0) - level);
    }
    expect(new Set(levels.map((one) => one.toFixed(5))).size).toBe(40);
    // Uniform over 0.04 dB, a little under the clip.
    expect(Math.max(...levels)).toBeLessThan(0.005);
    expect(Math.min(...levels)).toBeGreaterThan(-0.045);
    expect(Math.max(...levels) - Math.min(...levels)).toBeGreaterThan(0.03);
  });

  it('of the control that asks for loudness is one decibel louder on its bytes, no shorter', async () => {
    const [plain, louder] = [copy(5), copy(6, { gainDb: 1 })];
    expect(louder.length).toBe(plain.length);
    const gap =
      ((await levelOf(louder)).integratedLufs ?? 0) - ((await levelOf(plain)).integratedLufs ?? 0);
    expect(Math.abs(gap - 1)).toBeLessThan(0.045);
  });

  it('is not sent when it is not as loud as its set', () => {
    expect(() => copy(1, { levelLufs: level + 0.35 })).toThrow(MatchError);
    expect(() => copy(1, { levelLufs: level + 0.06, seeds: null })).toThrow(MatchError);
    expect(copy(1, { levelLufs: level + 0.04, seeds: null })).toBeInstanceOf(Uint8Array);
  });

  it('is within the verified residual also where the stretch alone weighs more', async () => {
    const burst = noise.map((x, n) => (n < 24000 ? x : 0.001 * x));
    const uneven = FloatClip.of([burst], 48000);
    const wanted = measure(uneven.unpacked(), FORMAT).integratedLufs ?? 0;
    for (let i = 1; i <= 20; i++) {
      const seeds = { trial: clipSeed(100 + i), clip: clipSeed(i) };
      const bytes = servedCopy(uneven, { seeds, levelLufs: wanted, gainDb: 0 });
      const { integratedLufs } = await levelOf(bytes);
      expect(Math.abs((integratedLufs ?? 0) - wanted + COPY_GAIN_DB)).toBeLessThanOrEqual(0.05);
    }
  });

  it('of sound up to half the sample rate, which reading between samples softens, is made as loud again', async () => {
    const bright = FloatClip.of([white], 48000);
    const wanted = measure([white], FORMAT).integratedLufs ?? 0;
    const seeds = { trial, clip: clipSeed(3) };
    const { integratedLufs } = await levelOf(
      servedCopy(bright, { seeds, levelLufs: wanted, gainDb: 0 }),
    );
    expect(Math.abs((integratedLufs ?? 0) - wanted + COPY_GAIN_DB)).toBeLessThanOrEqual(0.05);
  });

  it('is the same whatever the memory held that it was made in', () => {
    const odd = FloatClip.of([noise.subarray(0, 47999)], 48000);
    const used = (bytes: number) =>
      new Uint8Array(new SharedArrayBuffer(bytes + 9), 0, bytes).fill(7);
    const plan = { seeds: null, levelLufs: null, gainDb: 0 };
    const [fresh, again] = [servedCopy(odd, plan), servedCopy(odd, plan, used)];
    expect(fresh.length % 2).toBe(0);
    expect(Buffer.from(again).equals(Buffer.from(fresh))).toBe(true);
  });
});

describe('the training clips', () => {
  it.each([
    [48000, 1, -23],
    [44100, 2, -18],
  ])('are as loud as the set at %i Hz, %i channels, %i LUFS', async (rate, channels, target) => {
    const clips = trainingClips(trainingPhrases(rate), channels, target);
    expect(clips).toHaveLength(4);
    for (const bytes of clips) {
      const { header } = await decodeWav(bytes);
      expect(header.format).toMatchObject({ sampleRateHz: rate, channels });
      const { integratedLufs, truePeakDbtp } = await levelOf(bytes);
      // Speech has peaks that may keep it from becoming as loud.
      const full = truePeakDbtp! > -1.2;
      if (full) expect(integratedLufs).toBeLessThan(target);
      else expect(Math.abs(integratedLufs! - target)).toBeLessThan(0.02);
      expect(truePeakDbtp).toBeLessThan(-1);
    }
    // No length tells which is heard.
    expect(new Set(clips.map(({ length }) => length)).size).toBe(1);
  });

  it('of speech have the pauses of speech, of music have none', async () => {
    const [music, dark, speech] = trainingPhrases(48000).map(({ bytes }) =>
      FloatClip.from(bytes).unpacked(),
    );
    /** Share of tenths of a second that lie 25 dB under the loudest. */
    const pauses = ([samples]: readonly Float64Array[]) => {
      const powers = Array.from({ length: 80 }, (_, i) =>
        samples!.subarray(4800 * i, 4800 * (i + 1)).reduce((sum, x) => sum + x * x, 0),
      );
      const most = Math.max(...powers);
      return powers.filter((power) => power < most / 316).length / powers.length;
    };
    expect(pauses(speech!)).toBeGreaterThan(0.1);
    expect(pauses(music!)).toBeLessThan(0.1);
    expect(trainingVariant('music', 1)).toBe(1);
    expect(trainingVariant('speech', 0)).toBe(2);
    expect(dark).not.toEqual(music);
  });

  it('stay under full scale when the set is very loud', async () => {
    const plain = trainingClips(trainingPhrases(48000), 1, -6)[0]!;
    expect((await levelOf(plain)).truePeakDbtp).toBeLessThanOrEqual(-1.09);
  });
});
