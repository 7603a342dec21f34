import { type ByteSource, frameBytes, type WavHeader } from '@/core/wav/format';
import { decodeFrames } from '@/core/wav/read';
import { LoudnessMeter, type Measurement } from './meter';

const BLOCK_BYTES = 1 << 20;

/**
 * Measures a WAV of any length block by block.
 * @param onBlock also gets every decoded block, e.g. for a waveform
 * @param only the channels that count; all of them when null
 */
export async function measureSource(
  source: ByteSource,
  header: WavHeader,
  onBlock?: (channels: Float64Array[]) => void,
  only: readonly number[] | null = null,
): Promise<Measurement> {
  const format = only ? { ...header.format, channels: only.length, channelMask: 0 } : header.format;
  const meter = new LoudnessMeter(format);
  const frame = frameBytes(header.format);
  const step = Math.max(1, Math.floor(BLOCK_BYTES / frame)) * frame;
  for (let at = 0; at < header.dataBytes; at += step) {
    const length = Math.min(step, header.dataBytes - at);
    const bytes = await source.read(header.dataOffset + at, length);
    const channels = decodeFrames(bytes, header.format, only);
    meter.push(channels);
    onBlock?.(channels);
  }
  return meter.finish();
}
