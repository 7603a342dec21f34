import type { Random } from '@/core/signal/random';
import type { WavFormat } from './format';

const { floor } = Math;

export type WavDepth = 16 | 24 | '32f';

/** RIFF, format and the head of the samples; nothing else. */
export const PLAIN_HEADER_BYTES = 44;

const widthOf = (depth: WavDepth) => (depth === '32f' ? 4 : depth / 8);

/**
 * Length of the WAV that `encodeWav` writes, in bytes.
 * @throws RangeError when the channels differ in length or the file would pass 4 GiB
 */
export function encodedBytes(channels: readonly Float64Array[], depth: WavDepth): number {
  const frames = channels[0]?.length ?? 0;
  if (channels.length === 0 || channels.some((c) => c.length !== frames)) {
    throw new RangeError('channels of equal length are needed');
  }
  const dataBytes = frames * channels.length * widthOf(depth);
  if (dataBytes > 0xffffff00) throw new RangeError('a WAV cannot pass 4 GiB');
  return PLAIN_HEADER_BYTES + dataBytes + (dataBytes % 2);
}

/**
 * Writes a WAV with the plainest header there is: no tags, so that two files of equal shape differ
 * in nothing but samples. Integer depths get triangular dither of ±1 step when `dither` is given
 * (Lipshitz, Wannamaker & Vanderkooy 1992) and stop at full scale.
 * @throws RangeError when the channels differ in length or the file would pass 4 GiB
 */
export function encodeWav(
  channels: readonly Float64Array[],
  sampleRateHz: number,
  depth: WavDepth,
  dither?: Random,
): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(encodedBytes(channels, depth));
  encodeWavInto(out, channels, sampleRateHz, depth, dither);
  return out;
}

/** As `encodeWav`, into memory of just that length; every byte of it is written. */
export function encodeWavInto(
  out: Uint8Array,
  channels: readonly Float64Array[],
  sampleRateHz: number,
  depth: WavDepth,
  dither?: Random,
): void {
  const length = encodedBytes(channels, depth);
  if (out.length !== length) throw new RangeError(`${length} bytes are needed`);
  const width = widthOf(depth);
  const step = width * channels.length;
  const frames = channels[0].length;
  const data = new DataView(out.buffer, out.byteOffset, out.byteLength);
  out[length - 1] = 0;
  writeHeader(data, channels.length, sampleRateHz, width, depth === '32f' ? 3 : 1, frames * step);
  channels.forEach((samples, channel) => {
    const at = PLAIN_HEADER_BYTES + channel * width;
    if (depth === '32f') {
      for (let n = 0; n < frames; n++) data.setFloat32(at + n * step, samples[n], true);
    } else {
      writeCodes(out, at, step, samples, depth, dither);
    }
  });
}

/** Integer samples, little endian, dithered, held at full scale. */
function writeCodes(
  out: Uint8Array,
  start: number,
  step: number,
  samples: Float64Array,
  depth: 16 | 24,
  dither: Random | undefined,
): void {
  const scale = depth === 16 ? 0x8000 : 0x800000;
  const highest = scale - 1;
  for (let n = 0, at = start; n < samples.length; n++, at += step) {
    const value = samples[n] * scale + (dither ? dither.triangular() : 0);
    const code = floor((value > highest ? highest : value < -scale ? -scale : value) + 0.5) | 0;
    out[at] = code;
    out[at + 1] = code >> 8;
    if (depth === 24) out[at + 2] = code >> 16;
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
  const frames = channels[0].length;
  const out = new Uint8Array(frames * channels.length * width);
  channels.forEach((codes, c) => {
    for (let n = 0; n < frames; n++) {
      const at = (n * channels.length + c) * width;
      for (let byte = 0; byte < width; byte++) out[at + byte] = codes[n] >> (8 * byte);
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

function writeHeader(
  data: DataView,
  channels: number,
  sampleRateHz: number,
  width: number,
  formatTag: number,
  dataBytes: number,
): void {
  writeTag(data, 0, 'RIFF');
  data.setUint32(4, data.byteLength - 8, true);
  writeTag(data, 8, 'WAVE');
  writeFormat(data, 12, channels, sampleRateHz, width, formatTag);
  writeTag(data, 36, 'data');
  data.setUint32(40, dataBytes, true);
}
