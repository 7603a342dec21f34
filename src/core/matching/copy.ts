import { LoudnessMeter } from '@/core/loudness/meter';
import { Random } from '@/core/signal/random';
import { frameBytes, type WavFormat } from '@/core/wav/format';
import { decodeFrames } from '@/core/wav/read';
import { encodedBytes, encodeWavInto, PLAIN_HEADER_BYTES } from '@/core/wav/write';
import { MatchError } from './match';

/** No copy may be further from the common loudness. */
const LARGEST_RESIDUAL_LU = 0.05;
/** Frames read back at once; they stay in the processor's cache. */
const BLOCK = 8192;

/** A clip as it was matched: gain applied, ±1 = full scale, one array per channel. */
export interface Master {
  channels: readonly Float64Array[];
  sampleRateHz: number;
}

/**
 * A copy of a clip for one listener and trial: a WAV of 24 bits with dither from its own seed, so that
 * no two copies share their bytes, and measured on those bytes.
 * @param levelLufs what the copy must read, null when the set was not matched by programme loudness
 * @param gainDb added to the master; only a control that asks who follows loudness has any
 * @param memory gives room for so many bytes, which may hold anything; new memory by default
 * @throws MatchError when the bytes are not as loud as the rest of the set
 */
export function servedCopy(
  master: Master,
  seed: number,
  levelLufs: number | null,
  gainDb = 0,
  memory: (bytes: number) => Uint8Array = (bytes) => new Uint8Array(bytes),
): Uint8Array {
  const { channels: matched, sampleRateHz } = master;
  const gain = 10 ** (gainDb / 20);
  const channels =
    gainDb === 0 ? matched : matched.map((channel) => channel.map((sample) => gain * sample));
  const bytes = memory(encodedBytes(channels, 24));
  encodeWavInto(bytes, channels, sampleRateHz, 24, new Random(seed));
  if (levelLufs === null) return bytes;
  const integratedLufs = loudnessOf(bytes, {
    sampleRateHz,
    channels: channels.length,
    bitDepth: 24,
    encoding: 'pcm',
    channelMask: 0,
  });
  const wanted = levelLufs + gainDb;
  if (integratedLufs === null || Math.abs(integratedLufs - wanted) > LARGEST_RESIDUAL_LU) {
    throw new MatchError('a copy is not as loud as the rest of its set; it was not sent');
  }
  return bytes;
}

/** Reads the samples back. Peaks were verified when the set was made; here only loudness is asked. */
function loudnessOf(bytes: Uint8Array, format: WavFormat): number | null {
  const meter = new LoudnessMeter(format, 0, true);
  const step = BLOCK * frameBytes(format);
  for (let at = PLAIN_HEADER_BYTES; at < bytes.length; at += step) {
    meter.push(decodeFrames(bytes.subarray(at, at + step), format));
  }
  return meter.finish().integratedLufs;
}
