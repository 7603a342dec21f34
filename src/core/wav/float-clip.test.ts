import { xorshiftNoise } from '@/core/test/signals';
import { FloatClip } from './float-clip';
import { WavError } from './format';
import { decodeWav } from './read';
import { encodeWav } from './write';

const left = xorshiftNoise(1, 0.5, 9000);
const right = xorshiftNoise(2, 0.5, 9000);

it.each([[[left]], [[left, right]]])(
  'is the WAV of 32-bit floats that any reader reads',
  async (channels) => {
    const clip = FloatClip.of(channels, 44100);
    expect(Buffer.from(clip.bytes).equals(Buffer.from(encodeWav(channels, 44100, '32f')))).toBe(
      true,
    );
    const read = await decodeWav(clip.bytes);
    expect(read.header).toMatchObject({ frames: 9000, format: { sampleRateHz: 44100 } });
    expect(clip.unpacked()).toEqual(read.channels);
    expect(clip.frames).toBe(9000);
  },
);

it('is read from bytes wherever they lie, in place where floats may lie there', () => {
  const { bytes } = FloatClip.of([left, right], 96000);
  for (const offset of [0, 1, 4]) {
    const room = new Uint8Array(bytes.length + 8);
    room.set(bytes, offset);
    const clip = FloatClip.from(room.subarray(offset, offset + bytes.length));
    expect(clip).toMatchObject({ channels: 2, sampleRateHz: 96000, frames: 9000 });
    expect(clip.bytes.buffer === room.buffer).toBe(offset % 4 === 0);
    expect(clip.unpacked()[1]![4567]).toBe(Math.fround(right[4567]!));
  }
});

it('lies in memory that is given', () => {
  const shared = new SharedArrayBuffer(44 + 4 * 10);
  const clip = FloatClip.empty(1, 10, 48000, () => new Uint8Array(shared));
  clip.write(8, [Float64Array.from([0.25, -0.5])]);
  expect([...new Float32Array(shared, 44)]).toEqual([...new Array<number>(8).fill(0), 0.25, -0.5]);
});

it('is made of nothing else', () => {
  const { bytes } = FloatClip.of([left], 48000);
  const whole = encodeWav([left], 48000, 24);
  for (const wrong of [whole, bytes.subarray(0, 20), bytes.subarray(0, bytes.length - 4)]) {
    expect(() => FloatClip.from(wrong)).toThrow(WavError);
  }
});
