import { BLOCK_FRAMES } from '@/core/signal/sound';
import { xorshiftNoise } from '@/core/test/signals';
import { FloatClip } from '@/core/wav/float-clip';
import { decodeWav } from '@/core/wav/read';
import { ditherOf, encodeWav, plainBytes } from '@/core/wav/write';
import { heardFormat, roundedWav, roundSound } from './rounded';

const frames = 2 * BLOCK_FRAMES + 313;
const clip = FloatClip.of([xorshiftNoise(1, 0.4, frames), xorshiftNoise(2, 0.4, frames)], 48000);

it('gives block by block the bytes that the whole gives at once', () => {
  const whole = encodeWav(clip.unpacked(), 48000, 24, ditherOf(9, 2));
  expect(Buffer.from(roundedWav(clip, 48000, 9)).equals(Buffer.from(whole))).toBe(true);
});

it('tells what the bytes read, with a gain, and changes no sample by more than dither and rounding', async () => {
  const format = heardFormat(2, 48000);
  const into = new Uint8Array(plainBytes(2, frames, 24));
  const told: number[] = [];
  let most = 0;
  const listen = (read: readonly Float64Array[], made: readonly Float64Array[]) => {
    told.push(...read[1]!);
    read.forEach((samples, c) =>
      samples.forEach((x, n) => (most = Math.max(most, Math.abs(x - made[c]![n]!)))),
    );
  };
  roundSound(clip, format, 0.5, 9, { into, onRead: listen });
  // One step of dither and half a step of rounding.
  expect(most).toBeLessThanOrEqual(1.5 * 2 ** -23);
  expect(most).toBeGreaterThan(2 ** -23);
  const half = FloatClip.of(
    clip.unpacked().map((samples) => samples.map((x) => 0.5 * x)),
    48000,
  );
  const { channels } = await decodeWav(roundedWav(half, 48000, 9));
  expect(told).toEqual([...channels[1]!]);
  const again: number[] = [];
  roundSound(clip, format, 0.5, 9, { onRead: (read) => again.push(...read[1]!) });
  expect(again).toEqual(told);
});

it('channels have dither of their own', async () => {
  const silence = FloatClip.of([new Float64Array(5000), new Float64Array(5000)], 48000);
  const { channels } = await decodeWav(roundedWav(silence, 48000, 9));
  expect(channels[0]).not.toEqual(channels[1]);
  // Triangular: what is left of silence is -1, 0 or 1 step, zero three times out of four.
  for (const samples of channels) {
    const zeros = samples.filter((x) => x === 0).length / samples.length;
    expect(zeros).toBeGreaterThan(0.72);
    expect(zeros).toBeLessThan(0.78);
  }
});
