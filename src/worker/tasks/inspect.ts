import { createHash } from 'node:crypto';
import { FeatureCollector } from '@/core/checks/features';
import { measureSource } from '@/core/loudness/measure-source';
import { type ByteSource, WavError, type WavHeader } from '@/core/wav/format';
import { readWavHeader } from '@/core/wav/read';
import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';
import { isFlac } from '@/platform/flac';
import { FACTS_VERSION, type StoredFacts } from '@/steps/takes/facts';
import { PEAKS_PER_S } from '@/steps/takes/schema';
import type { Inspection } from '@/steps/takes/service';
import { storeDecoded } from './flac';
import type { WithProgress } from './reporting';

const READ_BYTES = 4 << 20;

export interface InspectOrder {
  audioId: number;
  channels: number[] | null;
}

/** Reads a whole take once for its hash, and once for its level, peaks and format. */
export async function inspectTake({
  audioId,
  channels: only,
  progress,
}: InspectOrder & WithProgress): Promise<Inspection> {
  let source = await audioSource(db(), audioId);
  let decodedAudioId: number | null = null;
  try {
    if (await isFlac(source)) {
      decodedAudioId = await storeDecoded(source, new Date(), (share) =>
        progress?.postMessage(0.4 * share),
      );
      source = await audioSource(db(), decodedAudioId);
    }
  } catch (error) {
    if (!(error instanceof WavError)) throw error;
    const { sha256 } = await hashesOf(source, null);
    return { outcome: 'refused', sha256, reason: `This file cannot be used: ${error.message}.` };
  }
  let sha256 = '';
  try {
    const header = await readWavHeader(source);
    const hashes = await hashesOf(source, header);
    ({ sha256 } = hashes);
    const { sampleRateHz, bitDepth, encoding } = header.format;
    const channels = only?.length ?? header.format.channels;
    const perPeak = Math.round(sampleRateHz / PEAKS_PER_S);
    const peaks = new Uint8Array(Math.ceil(header.frames / perPeak));
    let frame = 0;
    const collector = new FeatureCollector(sampleRateHz, header.frames);
    let told = 0;
    const onBlock = (block: readonly Float64Array[]) => {
      for (const samples of block) {
        for (let n = 0; n < samples.length; n++) {
          const slot = Math.floor((frame + n) / perPeak);
          const value = Math.min(255, Math.round(255 * Math.abs(samples[n]!)));
          if (value > peaks[slot]!) peaks[slot] = value;
        }
      }
      frame += block[0]!.length;
      collector.push(block);
      const share = Math.floor((100 * frame) / header.frames) / 100;
      if (share > told) progress?.postMessage(0.4 + 0.6 * share);
      told = share;
    };
    const measurement = await measureSource(source, header, onBlock, only);
    const { frames, durationS, dataOffset, metadata, warnings } = header;
    const facts: StoredFacts = {
      version: FACTS_VERSION,
      soundSha256: hashes.soundSha256,
      sampleRateHz,
      channels,
      bitDepth,
      encoding,
      durationS,
      measurement,
      features: collector.finish(),
      frames,
      dataOffset,
      metadata,
      warnings: decodedAudioId === null ? warnings : [...warnings, 'decoded from FLAC'],
    };
    return { outcome: 'ready', sha256, facts, peaks, decodedAudioId };
  } catch (error) {
    if (error instanceof WavError || error instanceof RangeError) {
      sha256 ||= (await hashesOf(source, null)).sha256;
      return { outcome: 'refused', sha256, reason: `This file cannot be used: ${error.message}.` };
    }
    throw error;
  }
}

/**
 * Hashes of a whole file, and of its samples alone with how they are written: the same sound in files that say
 * other things of themselves.
 */
async function hashesOf(
  source: ByteSource,
  header: WavHeader | null,
): Promise<{ sha256: string; soundSha256: string }> {
  const [whole, sound] = [createHash('sha256'), createHash('sha256')];
  const [from, to] = header ? [header.dataOffset, header.dataOffset + header.dataBytes] : [0, 0];
  if (header) {
    const { sampleRateHz, channels, bitDepth, encoding } = header.format;
    sound.update(JSON.stringify([sampleRateHz, channels, bitDepth, encoding]));
  }
  for (let at = 0; at < source.byteLength; at += READ_BYTES) {
    const bytes = await source.read(at, READ_BYTES);
    whole.update(bytes);
    sound.update(bytes.subarray(Math.max(0, from - at), Math.max(0, to - at)));
  }
  return { sha256: whole.digest('hex'), soundSha256: sound.digest('hex') };
}
