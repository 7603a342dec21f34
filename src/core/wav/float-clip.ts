import { eachBlock, type Sound, soundOf } from '@/core/signal/sound';
import { WavError } from './format';
import { PLAIN_HEADER_BYTES, plainBytes, plainHeader } from './write';

/**
 * A clip as it is stored: the bytes of a plain WAV of 32-bit floats, read and written in place. Typed
 * arrays are little endian on every machine this runs on, as WAV is.
 */
export class FloatClip<Memory extends ArrayBufferLike = ArrayBufferLike> implements Sound {
  private readonly samples: Float32Array;

  private constructor(
    /** The whole file. */
    readonly bytes: Uint8Array<Memory>,
    readonly channels: number,
    readonly sampleRateHz: number,
  ) {
    const { buffer, byteOffset, byteLength } = bytes;
    this.samples = new Float32Array(
      buffer,
      byteOffset + PLAIN_HEADER_BYTES,
      (byteLength - PLAIN_HEADER_BYTES) / 4,
    );
  }

  /**
   * Silence, to be written.
   * @param memory gives room for so many bytes, all zero; new memory by default
   * @throws RangeError when the file would pass 4 GiB
   */
  static empty(channels: number, frames: number, sampleRateHz: number): FloatClip<ArrayBuffer>;
  static empty(
    channels: number,
    frames: number,
    sampleRateHz: number,
    memory: ((bytes: number) => Uint8Array) | undefined,
  ): FloatClip;
  static empty(
    channels: number,
    frames: number,
    sampleRateHz: number,
    memory: (bytes: number) => Uint8Array = (bytes) => new Uint8Array(bytes),
  ): FloatClip {
    const bytes = memory(plainBytes(channels, frames, '32f'));
    plainHeader(bytes, channels, frames, sampleRateHz, '32f');
    return new FloatClip(bytes, channels, sampleRateHz);
  }

  /** Arrays of equal length, one per channel. */
  static of(channels: readonly Float64Array[], sampleRateHz: number): FloatClip {
    const sound = soundOf(channels);
    const clip = FloatClip.empty(sound.channels, sound.frames, sampleRateHz);
    eachBlock(sound, (block, at) => clip.write(at, block));
    return clip;
  }

  /**
   * The bytes of a clip that was made here, in place where they lie at a multiple of four bytes, as floats
   * must, and otherwise a copy.
   * @throws WavError when they are anything else
   */
  static from(bytes: Uint8Array): FloatClip {
    const header = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const told = (at: number) => header.getUint16(at, true);
    const samples = bytes.length - PLAIN_HEADER_BYTES;
    if (
      samples < 0 ||
      told(20) !== 3 ||
      told(34) !== 32 ||
      header.getUint32(40, true) !== samples
    ) {
      throw new WavError('this is no clip of 32-bit floats', 0);
    }
    const own = bytes.byteOffset % 4 === 0 ? bytes : new Uint8Array(bytes);
    return new FloatClip(own, told(22), header.getUint32(24, true));
  }

  get frames(): number {
    return this.samples.length / this.channels;
  }

  read(from: number, into: readonly Float64Array[]): void {
    const { channels, frames, samples } = this;
    for (const [c, out] of into.entries()) {
      const start = Math.max(0, from);
      const end = Math.max(start, Math.min(frames, from + out.length));
      if (end - start < out.length) out.fill(0);
      if (start === end) continue;
      if (channels === 1) {
        out.set(samples.subarray(start, end), start - from);
        continue;
      }
      for (let n = start, at = start * channels + c; n < end; n++, at += channels) {
        out[n - from] = samples[at]!;
      }
    }
  }

  /** Puts a block at its place; it must lie within the clip. */
  write(from: number, block: readonly Float64Array[]): void {
    const { channels, samples } = this;
    for (const [c, own] of block.entries()) {
      if (channels === 1) {
        samples.set(own, from);
        continue;
      }
      for (let n = 0, at = from * channels + c; n < own.length; n++, at += channels) {
        samples[at] = own[n]!;
      }
    }
  }

  /** One array per channel, for those who want the whole. */
  unpacked(): Float64Array[] {
    const out = Array.from({ length: this.channels }, () => new Float64Array(this.frames));
    this.read(0, out);
    return out;
  }
}
