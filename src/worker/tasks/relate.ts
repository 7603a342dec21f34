import {
  DEFAULT_SEARCH_S,
  findAlignment,
  SAME_PERFORMANCE_COHERENCE,
} from '@/core/alignment/delay';
import { findDrift } from '@/core/alignment/drift';
import { findOnsetDelay } from '@/core/alignment/onset';
import type { ReferenceAlignment } from '@/core/checks/set/set-check';
import { type Sound, soundOf } from '@/core/signal/sound';
import { meanSquare, powerToDb } from '@/core/signal/units';
import { resample } from '@/core/signal/resample';
import { readFrames, readWavHeader } from '@/core/wav/read';
import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';
import type { AlignmentOrder } from '@/steps/takes/service';
import type { WithProgress } from './reporting';

/** Enough to tell; the rest of a long take is left alone. */
const LOOKED_AT_S = 40;
const ONSET_SEARCH_S = 5;
/** Takes of the reference that lie in memory at once. */
const MOST_PERFORMANCES = 6;

type Ordered = AlignmentOrder['takes'][number];

interface Heard {
  take: Ordered;
  sound: Sound;
  meanSquare: number;
}

/**
 * Sets every take of a source against the reference chain's take of the same performance, and against the first of
 * its own chain.
 */
export async function relateTakes({
  order,
  progress,
}: { order: AlignmentOrder } & WithProgress): Promise<
  { takeId: string; referenceAlignment: ReferenceAlignment | null }[]
> {
  const found: { takeId: string; referenceAlignment: ReferenceAlignment | null }[] = [];
  for (const source of new Set(order.takes.map(({ sourceId }) => sourceId))) {
    const takes = order.takes.filter(({ sourceId }) => sourceId === source);
    const reference = takes.find(({ isReference }) => isReference) ?? takes[0]!;
    const rate = reference.facts?.sampleRateHz ?? 48_000;
    const ofChain = (chainId: string | null) => takes.filter((take) => take.chainId === chainId);
    const own = ofChain(reference.chainId);
    const performances: Heard[] = [];
    for (const take of own.slice(0, MOST_PERFORMANCES)) performances.push(await heard(take, rate));
    const at = performances[0]!;
    found.push({ takeId: at.take.id, referenceAlignment: null });
    for (const take of own.slice(1)) {
      const next = performances.find((one) => one.take === take) ?? (await heard(take, rate));
      found.push({ takeId: take.id, referenceAlignment: alignmentOf([at], next, at, rate) });
    }
    // Chain by chain, so that few takes lie in memory beside those of the reference.
    for (const chainId of new Set(takes.map((take) => take.chainId))) {
      if (chainId === reference.chainId) continue;
      let first: Heard | undefined;
      for (const [number, take] of ofChain(chainId).entries()) {
        const next = await heard(take, rate);
        // Most likely it is of the performance with the same number.
        const likely = [performances[number] ?? at, ...performances];
        found.push({ takeId: take.id, referenceAlignment: alignmentOf(likely, next, first, rate) });
        first ??= next;
        progress?.postMessage(found.length / order.takes.length);
      }
    }
  }
  return found;
}

async function heard(take: Ordered, rate: number): Promise<Heard> {
  const source = await audioSource(db(), take.audioId);
  const header = await readWavHeader(source);
  const own = header.format.sampleRateHz;
  // The first channel tells time and polarity of a pair as well.
  const first = take.channels?.[0] ?? 0;
  const samples = (await readFrames(source, header, 0, LOOKED_AT_S * own, [first]))[0]!;
  const channels = [resample(samples, own, rate)];
  return { take, sound: soundOf(channels), meanSquare: meanSquare(channels) };
}

/** @param performances of the reference chain, the likeliest first; the one it is of tells, else the first does */
function alignmentOf(
  performances: readonly Heard[],
  own: Heard,
  first: Heard | undefined,
  rate: number,
): ReferenceAlignment {
  let at = performances[0]!;
  let found = findAlignment(at.sound, own.sound, rate, DEFAULT_SEARCH_S);
  for (const other of new Set(performances.slice(1))) {
    if (found.coherence >= SAME_PERFORMANCE_COHERENCE) break;
    const tried = findAlignment(other.sound, own.sound, rate, DEFAULT_SEARCH_S);
    if (tried.coherence >= SAME_PERFORMANCE_COHERENCE) [at, found] = [other, tried];
  }
  const same = found.coherence >= SAME_PERFORMANCE_COHERENCE;
  return {
    referenceTakeId: at.take.id,
    delaySamples: found.delaySamples,
    polarityInverted: found.polarityInverted,
    coherence: found.coherence,
    driftPpm: same ? (findDrift(at.sound, own.sound, rate, found.delaySamples)?.ppm ?? null) : null,
    onsetDelayS: same ? null : findOnsetDelay(at.sound, own.sound, rate, ONSET_SEARCH_S) / rate,
    own: first
      ? {
          coherence: findAlignment(first.sound, own.sound, rate, DEFAULT_SEARCH_S).coherence,
          levelDb: powerToDb(own.meanSquare / Math.max(1e-20, first.meanSquare)),
        }
      : null,
  };
}
