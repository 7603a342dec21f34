import { BLOCK_FRAMES, blockOf, firstOf } from '@/core/signal/sound';
import { type ByteSource, frameBytes, type WavHeader } from '@/core/wav/format';
import { decodeInto } from '@/core/wav/read';
import { Meter, type Measurement } from './meter';

const READ_BYTES = 1 << 20;

/**
 * Measures a WAV of any length block by block.
 * @param onBlock also gets every decoded block, e.g. for a waveform; its memory is used again
 * @param only the channels that count; all of them when null
 */
export async function measureSource(
  source: ByteSource,
  header: WavHeader,
  onBlock?: (channels: readonly Float64Array[]) => void,
  only: readonly number[] | null = null,
): Promise<Measurement> {
  const format = only ? { ...header.format, channels: only.length, channelMask: 0 } : header.format;
  const meter = new Meter(format);
  const frame = frameBytes(header.format);
  const wanted = only ?? Array.from({ length: header.format.channels }, (_, c) => c);
  const room = blockOf(wanted.length);
  const block = BLOCK_FRAMES * frame;
  const step = Math.max(1, Math.floor(READ_BYTES / block)) * block;
  for (let at = 0; at < header.dataBytes; at += step) {
    const bytes = await source.read(header.dataOffset + at, Math.min(step, header.dataBytes - at));
    for (let from = 0; from < bytes.length; from += block) {
      const piece = bytes.subarray(from, from + block);
      const samples = firstOf(room, Math.floor(piece.length / frame));
      decodeInto(samples, piece, header.format, wanted);
      meter.push(samples);
      onBlock?.(samples);
    }
  }
  return meter.finish();
}
