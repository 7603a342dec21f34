import { Random, type SecretSeed } from '@/core/signal/random';
import type { WavFormat } from './format';

const { floor } = Math;

export type WavDepth = 16 | 24 | '32f';

/** RIFF, format and the head of the samples; nothing else. */
export const PLAIN_HEADER_BYTES = 44;

const widthOf = (depth: WavDepth) => (depth === '32f' ? 4 : depth / 8);

/**
 * Length of a plain WAV, in bytes.
 * @throws RangeError when the file would pass 4 GiB
 */
export function plainBytes(channels: number, frames: number, depth: WavDepth): number {
  const dataBytes = frames * channels * widthOf(depth);
  if (dataBytes > 0xffffff00) throw new RangeError('a WAV cannot pass 4 GiB');
  return PLAIN_HEADER_BYTES + dataBytes + (dataBytes % 2);
}

/** Writes the plain header of a WAV of `frames`, and the byte that an odd length ends with. */
export function plainHeader(
  out: Uint8Array,
  channels: number,
  frames: number,
  sampleRateHz: number,
  depth: WavDepth,
): void {
  const length = plainBytes(channels, frames, depth);
  if (out.length !== length) throw new RangeError(`${length} bytes are needed`);
  out[length - 1] = 0;
  out.set(plainHead(channels, frames, sampleRateHz, depth));
}

/** The plain header alone, for a file whose samples are written after it. */
export function plainHead(
  channels: number,
  frames: number,
  sampleRateHz: number,
  depth: WavDepth,
): Uint8Array<ArrayBuffer> {
  const width = widthOf(depth);
  const out = new Uint8Array(PLAIN_HEADER_BYTES);
  const data = new DataView(out.buffer);
  writeTag(data, 0, 'RIFF');
  data.setUint32(4, plainBytes(channels, frames, depth) - 8, true);
  writeTag(data, 8, 'WAVE');
  writeFormat(data, 12, channels, sampleRateHz, width, depth === '32f' ? 3 : 1);
  writeTag(data, 36, 'data');
  data.setUint32(40, frames * channels * width, true);
  return out;
}

/** Dither for every channel of a file, from one seed; a secret one where nobody may find it by trying. */
export function ditherOf(seed: number | SecretSeed, channels: number): Random[] {
  if (typeof seed === 'string') {
    // One stream dealt out to the channels: each has steps of its own.
    const source = Random.secret(seed);
    return Array.from({ length: channels }, () => Random.secret(source.secretSeed()));
  }
  return Array.from({ length: channels }, (_, c) =>
    c === 0 ? new Random(seed) : Random.derived(seed, `channel ${c}`),
  );
}

/**
 * Writes a WAV with the plainest header there is: no tags, so that two files of equal shape differ
 * in nothing but samples. Integer depths get triangular dither of ±1 step when `dither` is given, one
 * for each channel (Lipshitz, Wannamaker & Vanderkooy 1992), and stop at full scale.
 * @throws RangeError when the channels differ in length or the file would pass 4 GiB
 */
export function encodeWav(
  channels: readonly Float64Array[],
  sampleRateHz: number,
  depth: WavDepth,
  dither?: readonly Random[],
): Uint8Array<ArrayBuffer> {
  const frames = channels[0]?.length ?? 0;
  if (channels.length === 0 || channels.some((c) => c.length !== frames)) {
    throw new RangeError('channels of equal length are needed');
  }
  const out = new Uint8Array(plainBytes(channels.length, frames, depth));
  plainHeader(out, channels.length, frames, sampleRateHz, depth);
  if (depth === '32f') {
    const data = new DataView(out.buffer);
    channels.forEach((samples, c) => {
      const step = 4 * channels.length;
      for (let n = 0, at = PLAIN_HEADER_BYTES + 4 * c; n < frames; n++, at += step) {
        data.setFloat32(at, samples[n]!, true);
      }
    });
  } else {
    writeCodes(out, PLAIN_HEADER_BYTES, channels, depth, dither);
  }
  return out;
}

/**
 * Integer samples, little endian and interleaved, dithered, held at full scale. Each channel draws from
 * its own dither, so a file comes out the same whether it is written at once or block by block.
 * @param start byte of the first sample
 */
export function writeCodes(
  out: Uint8Array,
  start: number,
  block: readonly Float64Array[],
  depth: 16 | 24,
  dither?: readonly Random[],
): void {
  const scale = depth === 16 ? 0x8000 : 0x800000;
  const highest = scale - 1;
  const width = depth / 8;
  const step = width * block.length;
  for (const [c, samples] of block.entries()) {
    const random = dither?.[c];
    for (let n = 0, at = start + c * width; n < samples.length; n++, at += step) {
      const value = samples[n]! * scale + (random ? random.triangular() : 0);
      const code = floor((value > highest ? highest : value < -scale ? -scale : value) + 0.5) | 0;
      out[at] = code;
      out[at + 1] = code >> 8;
      if (depth === 24) out[at + 2] = code >> 16;
    }
  }
}

/**
 * The plain header of a PCM file whose samples are written elsewhere; over 4 GiB its sizes stand in a
 * 64-bit chunk (RF64, EBU Tech 3306).
 */
export function wavHeader(format: WavFormat, frames: number): Uint8Array<ArrayBuffer> {
  const { channels, sampleRateHz, bitDepth } = format;
  const width = bitDepth / 8;
  const dataBytes = frames * channels * width;
  // Always as long as the 64-bit form, so that it can be written over.
  const out = new Uint8Array(80);
  const data = new DataView(out.buffer);
  const long = dataBytes > 0xffffff00 - out.length;
  writeTag(data, 0, long ? 'RF64' : 'RIFF');
  data.setUint32(4, long ? 0xffffffff : out.length - 8 + dataBytes + (dataBytes % 2), true);
  writeTag(data, 8, 'WAVE');
  writeTag(data, 12, long ? 'ds64' : 'JUNK');
  data.setUint32(16, 28, true);
  if (long) {
    data.setBigUint64(20, BigInt(out.length - 8 + dataBytes), true);
    data.setBigUint64(28, BigInt(dataBytes), true);
    data.setBigUint64(36, BigInt(frames), true);
  }
  writeFormat(data, 48, channels, sampleRateHz, width, 1);
  writeTag(data, 72, 'data');
  data.setUint32(76, long ? 0xffffffff : dataBytes, true);
  return out;
}

/** Interleaved little-endian whole numbers, one array per channel. @param width bytes of one */
export function interleave(
  channels: readonly Int32Array[],
  width: number,
): Uint8Array<ArrayBuffer> {
  const frames = channels[0]!.length;
  const out = new Uint8Array(frames * channels.length * width);
  channels.forEach((codes, c) => {
    for (let n = 0; n < frames; n++) {
      const at = (n * channels.length + c) * width;
      for (let byte = 0; byte < width; byte++) out[at + byte] = codes[n]! >> (8 * byte);
    }
  });
  return out;
}

function writeTag(data: DataView, at: number, name: string): void {
  for (let i = 0; i < 4; i++) data.setUint8(at + i, name.charCodeAt(i));
}

function writeFormat(
  data: DataView,
  at: number,
  channels: number,
  sampleRateHz: number,
  width: number,
  formatTag: number,
): void {
  writeTag(data, at, 'fmt ');
  data.setUint32(at + 4, 16, true);
  data.setUint16(at + 8, formatTag, true);
  data.setUint16(at + 10, channels, true);
  data.setUint32(at + 12, sampleRateHz, true);
  data.setUint32(at + 16, sampleRateHz * channels * width, true);
  data.setUint16(at + 20, channels * width, true);
  data.setUint16(at + 22, width * 8, true);
}
