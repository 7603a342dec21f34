import { createHash } from 'node:crypto';
import type { FLACDecoder } from '@wasm-audio-decoders/flac';
import { type ByteSource, WavError, type WavFormat } from '@/core/wav/format';
import { interleave, wavHeader } from '@/core/wav/write';
import { unpacksToAbsurdly } from './packed';

const READ_BYTES = 1 << 20;
/**
 * Decoded at a time. A frame of 35 bytes can hold 2 MB of silence in eight channels, so this bounds what one
 * piece of a malicious file may become to some 120 MB.
 */
const PIECE_BYTES = 2048;
const MAGIC = 'fLaC';
const STREAMINFO_AT = 8;

export async function isFlac(source: ByteSource): Promise<boolean> {
  return String.fromCharCode(...(await source.read(0, 4))) === MAGIC;
}

interface StreamInfo {
  /** 0 where the writer did not say. */
  frames: number;
  /** Of one frame as WAV. */
  frameBytes: number;
  md5: string | null;
}

/** What the file says of itself (RFC 9639, 8.2): size, and a hash of the samples where the writer made one. */
async function streamInfo(source: ByteSource): Promise<StreamInfo> {
  const bytes = Buffer.from(await source.read(STREAMINFO_AT, 34));
  if (bytes.length < 34) throw new WavError('the FLAC file is cut short', STREAMINFO_AT);
  const md5 = bytes.subarray(18, 34).toString('hex');
  const channels = ((bytes[12]! >> 1) & 0x07) + 1;
  const bits = (((bytes[12]! & 0x01) << 4) | (bytes[13]! >> 4)) + 1;
  return {
    frameBytes: channels * Math.ceil(bits / 8),
    frames: (bytes[13]! & 0x0f) * 2 ** 32 + bytes.readUInt32BE(14),
    md5: /^0+$/.test(md5) ? null : md5,
  };
}

/** Samples as whole codes; a plain loop, since hours of them pass here. */
function codesOf(samples: Float32Array, scale: number): Int32Array {
  const codes = new Int32Array(samples.length);
  for (let i = 0; i < codes.length; i++) codes[i] = Math.round(samples[i]! * scale);
  return codes;
}

/** A FLAC file as the WAV it stands for. */
export interface Unpacked {
  /** Bytes of sound that the file says it holds; 0 where it does not say. */
  bytes: number;
  /** A header without a length, then the samples. */
  pieces: AsyncGenerator<Uint8Array>;
  /** The header with the length, once all pieces were read. */
  header: () => Uint8Array;
}

/**
 * What a FLAC file holds as WAV, sample for sample, checked against the file's own hash as it is read.
 * @throws WavError when it says that it holds more than sound can be packed to; while reading, when frames
 * are broken or missing
 */
export async function unpackFlac(
  source: ByteSource,
  onProgress: (share: number) => void = () => undefined,
): Promise<Unpacked> {
  const info = await streamInfo(source);
  const absurd = new WavError('it would unpack to far more than sound can be packed', 0);
  const bytes = info.frames * info.frameBytes;
  if (unpacksToAbsurdly(bytes, source.byteLength)) throw absurd;
  const found: { format: WavFormat | null; frames: number } = { format: null, frames: 0 };
  const hash = createHash('md5');
  const broken = () =>
    new WavError(
      `the FLAC file is damaged; ${found.frames} of ${info.frames} samples can be read`,
      source.byteLength,
    );
  async function* decoded(decoder: FLACDecoder, bytes: Uint8Array, last: boolean) {
    for (let at = 0; at < bytes.length; at += PIECE_BYTES) {
      yield await decoder.decode(bytes.slice(at, at + PIECE_BYTES));
    }
    if (last) yield await decoder.flush();
  }
  async function* wav(decoder: FLACDecoder): AsyncGenerator<Uint8Array> {
    for (let offset = 0; offset <= source.byteLength; offset += READ_BYTES) {
      const bytes = await source.read(offset, READ_BYTES);
      const last = offset + READ_BYTES > source.byteLength;
      for await (const piece of decoded(decoder, bytes, last)) {
        const { channelData, samplesDecoded, sampleRate, bitDepth, errors } = piece;
        if (errors.length > 0) throw broken();
        if (samplesDecoded === 0) continue;
        const width = bitDepth <= 16 ? 16 : bitDepth <= 24 ? 24 : 32;
        found.format ??= {
          sampleRateHz: sampleRate,
          channels: channelData.length,
          bitDepth: width,
          encoding: 'pcm',
          channelMask: 0,
        };
        if (found.frames === 0) yield wavHeader(found.format, 0);
        found.frames += samplesDecoded;
        const unpacked = found.frames * channelData.length * (width / 8);
        if (unpacksToAbsurdly(unpacked, source.byteLength)) throw absurd;
        if (info.frames > 0 && found.frames > info.frames) throw broken();
        // The decoder hands out shares of the largest code.
        const scale = 2 ** (bitDepth - 1) - 1;
        const codes = channelData.map((samples) => codesOf(samples, scale));
        hash.update(interleave(codes, Math.ceil(bitDepth / 8)));
        const shift = width - bitDepth;
        yield interleave(
          shift === 0 ? codes : codes.map((own) => own.map((code) => code << shift)),
          width / 8,
        );
      }
      onProgress(Math.min(1, offset / source.byteLength));
    }
    if (info.frames > 0 && found.frames !== info.frames) throw broken();
    if (found.frames === 0) throw new WavError('the FLAC file holds no sound', 0);
    if (info.md5 !== null && hash.digest('hex') !== info.md5) throw broken();
  }
  async function* pieces(): AsyncGenerator<Uint8Array> {
    // Read only where something is packed, so that nothing else waits for it.
    const { FLACDecoder } = await import('@wasm-audio-decoders/flac');
    const decoder = new FLACDecoder();
    try {
      await decoder.ready;
      yield* wav(decoder);
    } finally {
      decoder.free();
    }
  }
  return {
    bytes,
    pieces: pieces(),
    header: () => {
      if (!found.format) throw new WavError('the FLAC file holds no sound', 0);
      return wavHeader(found.format, found.frames);
    },
  };
}
