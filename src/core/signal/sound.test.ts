import { xorshiftNoise } from '@/core/test/signals';
import { FloatClip } from '@/core/wav/float-clip';
import { BLOCK_FRAMES, blockOf, eachBlock, firstOf, type Sound, soundOf } from './sound';

const channels = [xorshiftNoise(1, 0.5, 20000), xorshiftNoise(2, 0.5, 20000)].map((samples) =>
  samples.map(Math.fround),
);

describe.each([
  ['arrays', soundOf(channels)],
  ['a clip of one channel', FloatClip.of(channels.slice(0, 1), 48000)],
  ['a clip of two channels', FloatClip.of(channels, 48000)],
] as [string, Sound][])('%s', (_, sound) => {
  it.each([
    ['inside', 1234, 100],
    ['over the beginning', -30, 100],
    ['over the end', 19950, 100],
    ['around all of it', -7, 20020],
    ['before it', -500, 100],
    ['just before it', -100, 100],
    ['behind it', 20000, 100],
    ['far behind it', 90000, 100],
  ])('reads what lies %s, and zeros where nothing is', (_place, from, length) => {
    const out = blockOf(sound.channels, length);
    // What was in the memory before must not shine through.
    for (const samples of out) samples.fill(7);
    sound.read(from, out);
    out.forEach((samples, c) => {
      expect(samples).toEqual(samples.map((_x, n) => channels[c]![from + n] ?? 0));
    });
  });

  it('is gone through block by block, each frame once, in order', () => {
    const heard = blockOf(sound.channels, sound.frames);
    const begun: number[] = [];
    eachBlock(sound, (block, at) => {
      begun.push(at);
      block.forEach((samples, c) => heard[c]!.set(samples, at));
    });
    const blocks = Math.ceil(sound.frames / BLOCK_FRAMES);
    expect(begun).toEqual(Array.from({ length: blocks }, (_x, i) => i * BLOCK_FRAMES));
    heard.forEach((samples, c) => expect(samples).toEqual(channels[c]));
  });
});

it('a part of a block shares its memory', () => {
  const block = blockOf(2, 10);
  firstOf(block, 4)[1]![3] = 5;
  expect(block[1]![3]).toBe(5);
  expect(firstOf(block, 10)).toBe(block);
});
