import type { SecretSeed } from '@/core/signal/random';
import { BLOCK_FRAMES, blockOf, eachBlock, firstOf, type Sound } from '@/core/signal/sound';
import { frameBytes, type WavFormat } from '@/core/wav/format';
import { decodeInto } from '@/core/wav/read';
import {
  ditherOf,
  PLAIN_HEADER_BYTES,
  plainBytes,
  plainHeader,
  writeCodes,
} from '@/core/wav/write';

/** What listeners hear: 24 bits. */
export function heardFormat(channels: number, sampleRateHz: number): WavFormat {
  return { sampleRateHz, channels, bitDepth: 24, encoding: 'pcm', channelMask: 0 };
}

/** What is asked of rounded sound, block by block; the memory of a block is used again for the next. */
export interface RoundedOut {
  /** Gets the bytes after the head of a plain WAV. */
  into?: Uint8Array;
  onBytes?: (bytes: Uint8Array) => void;
  /** Told the samples as the bytes read, and as they were before rounding. */
  onRead?: (read: readonly Float64Array[], made: readonly Float64Array[]) => void;
}

/**
 * Rounds sound to 24 bits with the dither of a seed, and reads every block back from its bytes. The same
 * sound, gain and seed give the same bytes again.
 * @param gain linear; the product is rounded to 32-bit floats first, as a clip is stored
 * @param out where the bytes go, and what they read
 */
export function roundSound(
  sound: Sound,
  format: WavFormat,
  gain: number,
  seed: number | SecretSeed,
  { into, onBytes, onRead }: RoundedOut,
): void {
  const dither = ditherOf(seed, sound.channels);
  const frame = frameBytes(format);
  const scratch = new Uint8Array(into ? 0 : BLOCK_FRAMES * frame);
  const room = blockOf(sound.channels);
  const all = Array.from({ length: sound.channels }, (_, c) => c);
  eachBlock(sound, (block, at) => {
    for (const samples of block) {
      for (let n = 0; n < samples.length; n++) samples[n] = Math.fround(gain * samples[n]!);
    }
    const { length } = block[0]!;
    const start = PLAIN_HEADER_BYTES + at * frame;
    const bytes = into
      ? into.subarray(start, start + length * frame)
      : scratch.subarray(0, length * frame);
    writeCodes(bytes, 0, block, 24, dither);
    onBytes?.(bytes);
    if (!onRead) return;
    const read = firstOf(room, length);
    decodeInto(read, bytes, format, all);
    onRead(read, block);
  });
}

/** The whole file of rounded sound. */
export function roundedWav(
  sound: Sound,
  sampleRateHz: number,
  seed: number,
): Uint8Array<ArrayBuffer> {
  const { channels, frames } = sound;
  const out = new Uint8Array(plainBytes(channels, frames, 24));
  plainHeader(out, channels, frames, sampleRateHz, 24);
  roundSound(sound, heardFormat(channels, sampleRateHz), 1, seed, { into: out });
  return out;
}
