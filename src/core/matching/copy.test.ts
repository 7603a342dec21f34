import { measure } from '@/core/loudness/meter';
import { settlingClips, settlingPhrase } from '@/core/simulation/settling';
import { xorshiftNoise } from '@/core/test/signals';
import type { WavFormat } from '@/core/wav/format';
import { FloatClip } from '@/core/wav/float-clip';
import { decodeWav } from '@/core/wav/read';
import { servedCopy } from './copy';
import { MatchError } from './align';

const noise = xorshiftNoise(8, 0.2, 48000 * 2);
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

describe('a served copy', () => {
  it('comes again from its seed, and shares no bytes with another', async () => {
    const level = measure(master.unpacked(), FORMAT).integratedLufs;
    const [a, again, b] = [
      servedCopy(master, 5, level),
      servedCopy(master, 5, level),
      servedCopy(master, 6, level),
    ];
    expect(Buffer.from(a).equals(Buffer.from(again))).toBe(true);
    expect(Buffer.from(a).equals(Buffer.from(b))).toBe(false);
    expect(a.length).toBe(44 + 3 * noise.length);
    // Two copies differ by dither only: at most two steps of 24 bits either way.
    const [x, y] = [(await decodeWav(a)).channels[0], (await decodeWav(b)).channels[0]];
    const worst = x.reduce((most, value, n) => Math.max(most, Math.abs(value - y[n])), 0);
    expect(worst).toBeLessThanOrEqual(3 * 2 ** -23);
  });

  it('of the control that asks for loudness is one decibel louder on its bytes, no shorter', async () => {
    const level = measure(master.unpacked(), FORMAT).integratedLufs ?? 0;
    const [plain, louder] = [servedCopy(master, 5, level), servedCopy(master, 6, level, 1)];
    expect(louder.length).toBe(plain.length);
    expect((await levelOf(louder)).integratedLufs).toBeCloseTo(level + 1, 1);
  });

  it('is not sent when it is not as loud as its set', async () => {
    const level = measure(master.unpacked(), FORMAT).integratedLufs ?? 0;
    expect(servedCopy(master, 1, level + 0.04)).toBeInstanceOf(Uint8Array);
    expect(() => servedCopy(master, 1, level + 0.06)).toThrow(MatchError);
  });

  it('is the same whatever the memory held that it was made in', () => {
    const odd = FloatClip.of([noise.subarray(0, 47999)], 48000);
    const used = (bytes: number) =>
      new Uint8Array(new SharedArrayBuffer(bytes + 9), 0, bytes).fill(7);
    const [fresh, again] = [servedCopy(odd, 5, null), servedCopy(odd, 5, null, 0, used)];
    expect(fresh.length % 2).toBe(0);
    expect(Buffer.from(again).equals(Buffer.from(fresh))).toBe(true);
  });
});

describe('the settling clips', () => {
  it.each([
    [48000, 1, -23],
    [44100, 2, -18],
  ])('are as loud as the set at %i Hz, %i channels, %i LUFS', async (rate, channels, target) => {
    const [plain, dark] = settlingClips(settlingPhrase(rate), channels, target);
    for (const bytes of [plain, dark]) {
      const { header } = await decodeWav(bytes);
      expect(header.format).toMatchObject({ sampleRateHz: rate, channels });
      const { integratedLufs, truePeakDbtp } = await levelOf(bytes);
      expect(integratedLufs).toBeCloseTo(target, 1);
      expect(truePeakDbtp).toBeLessThan(-1);
    }
    expect(plain.length).toBe(dark.length);
  });

  it('stay under full scale when the set is very loud', async () => {
    const [plain] = settlingClips(settlingPhrase(48000), 1, -6);
    expect((await levelOf(plain)).truePeakDbtp).toBeLessThanOrEqual(-1.09);
  });
});
