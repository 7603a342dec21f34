import {
  DEFAULT_SEARCH_S,
  findAlignment,
  SAME_PERFORMANCE_COHERENCE,
} from '@/core/alignment/delay';
import { findDrift } from '@/core/alignment/drift';
import { findOnsetDelay } from '@/core/alignment/onset';
import type { TakeRelation } from '@/core/checks/set/set-check';
import { meanSquare, powerToDb } from '@/core/signal/units';
import { resample } from '@/core/signal/resample';
import { readFrames, readWavHeader } from '@/core/wav/read';
import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';
import type { RelationOrder } from '@/steps/takes/service';
import type { WithProgress } from './reporting';

/** Enough to tell; the rest of a long take is left alone. */
const LOOKED_AT_S = 40;
const ONSET_SEARCH_S = 5;

type Ordered = RelationOrder['takes'][number];

interface Heard {
  take: Ordered;
  channels: Float64Array[];
}

/** Sets every take of a source against its reference take, and against the first of its own chain. */
export async function relateTakes({
  order,
  progress,
}: { order: RelationOrder } & WithProgress): Promise<
  { takeId: string; relation: TakeRelation | null }[]
> {
  const found: { takeId: string; relation: TakeRelation | null }[] = [];
  for (const source of new Set(order.takes.map(({ sourceId }) => sourceId))) {
    const takes = order.takes.filter(({ sourceId }) => sourceId === source);
    const reference = takes.find(({ isReference }) => isReference) ?? takes[0];
    const rate = reference.facts?.sampleRateHz ?? 48_000;
    const at = await heard(reference, rate);
    found.push({ takeId: reference.id, relation: null });
    // Chain by chain, so that never more than three takes lie in memory.
    for (const chainId of new Set(takes.map((take) => take.chainId))) {
      let first = chainId === reference.chainId ? at : undefined;
      for (const take of takes) {
        if (take.chainId !== chainId || take === reference) continue;
        const own = await heard(take, rate);
        found.push({ takeId: take.id, relation: relation(at, own, first, rate) });
        first ??= own;
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
  const [samples] = await readFrames(source, header, 0, LOOKED_AT_S * own, [first]);
  return { take, channels: [resample(samples, own, rate)] };
}

function relation(at: Heard, own: Heard, first: Heard | undefined, rate: number): TakeRelation {
  const found = findAlignment(at.channels, own.channels, rate, DEFAULT_SEARCH_S);
  const same = found.coherence >= SAME_PERFORMANCE_COHERENCE;
  return {
    referenceTakeId: at.take.id,
    delaySamples: found.delaySamples,
    polarityInverted: found.polarityInverted,
    coherence: found.coherence,
    driftPpm: same
      ? (findDrift(at.channels, own.channels, rate, found.delaySamples)?.ppm ?? null)
      : null,
    onsetDelayS: same
      ? null
      : findOnsetDelay(at.channels, own.channels, rate, ONSET_SEARCH_S) / rate,
    own: first
      ? {
          coherence: findAlignment(first.channels, own.channels, rate, DEFAULT_SEARCH_S).coherence,
          levelDb: powerToDb(
            meanSquare(own.channels) / Math.max(1e-20, meanSquare(first.channels)),
          ),
        }
      : null,
  };
}
