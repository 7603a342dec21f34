import { createHash } from 'node:crypto';
import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { type ByteSource, WavError, type WavFormat } from '@/core/wav/format';
import { interleave, wavHeader } from '@/core/wav/write';
import { rewriteStart, writeAudio } from '@/platform/audio-store';
import { db } from '@/platform/database';

const READ_BYTES = 1 << 20;
const MAGIC = 'fLaC';
const STREAMINFO_AT = 8;

export async function isFlac(source: ByteSource): Promise<boolean> {
  return String.fromCharCode(...(await source.read(0, 4))) === MAGIC;
}

/** What the file says of itself (RFC 9639, 8.2): samples, and a hash of them where the writer made one. */
async function streamInfo(source: ByteSource): Promise<{ frames: number; md5: string | null }> {
  const bytes = Buffer.from(await source.read(STREAMINFO_AT, 34));
  if (bytes.length < 34) throw new WavError('the FLAC file is cut short', STREAMINFO_AT);
  const md5 = bytes.subarray(18, 34).toString('hex');
  return {
    frames: (bytes[13] & 0x0f) * 2 ** 32 + bytes.readUInt32BE(14),
    md5: /^0+$/.test(md5) ? null : md5,
  };
}

/**
 * Stores what a FLAC file holds as WAV, sample for sample, checked against the file's own hash.
 * @returns the id of the sound, not sealed yet
 * @throws WavError when frames are broken or missing
 */
export async function storeDecoded(
  source: ByteSource,
  at: Date,
  onProgress: (share: number) => void,
): Promise<number> {
  const info = await streamInfo(source);
  const decoder = new FLACDecoder();
  await decoder.ready;
  const hash = createHash('md5');
  const found: { format: WavFormat | null; frames: number } = { format: null, frames: 0 };
  const broken = () =>
    new WavError(
      `the FLAC file is damaged; ${found.frames} of ${info.frames} samples can be read`,
      source.byteLength,
    );
  async function* wav(): AsyncGenerator<Uint8Array> {
    for (let offset = 0; offset <= source.byteLength; offset += READ_BYTES) {
      const bytes = await source.read(offset, READ_BYTES);
      const pieces = bytes.length > 0 ? [await decoder.decode(new Uint8Array(bytes))] : [];
      if (offset + READ_BYTES > source.byteLength) pieces.push(await decoder.flush());
      for (const { channelData, samplesDecoded, sampleRate, bitDepth, errors } of pieces) {
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
        // The decoder hands out shares of the largest code.
        const scale = 2 ** (bitDepth - 1) - 1;
        const codes = channelData.map((samples) =>
          Int32Array.from(samples, (x) => Math.round(x * scale)),
        );
        hash.update(interleave(codes, Math.ceil(bitDepth / 8)));
        const shift = width - bitDepth;
        yield interleave(
          shift === 0 ? codes : codes.map((own) => own.map((code) => code << shift)),
          width / 8,
        );
      }
      onProgress(Math.min(1, offset / source.byteLength));
    }
    if (found.frames === 0) throw new WavError('the FLAC file holds no sound', 0);
    if (info.frames > 0 && found.frames !== info.frames) throw broken();
    if (info.md5 !== null && hash.digest('hex') !== info.md5) throw broken();
  }
  try {
    const id = await writeAudio(db(), wav(), at);
    if (found.format) {
      await rewriteStart(db(), id, Buffer.from(wavHeader(found.format, found.frames)));
    }
    return id;
  } finally {
    decoder.free();
  }
}
