import { compareTwo, residualOf, type Comparison } from '@/core/spectrum/compare-two';
import { findAlignment } from '@/core/alignment/delay';
import { soundOf } from '@/core/signal/sound';
import { encodeWav } from '@/core/wav/write';
import type { CompareOrder } from '@/steps/takes/compare';
import { opened, stretch } from './align';

/** The middle of the shorter one; enough for every band, short enough to wait for. */
const LOOKED_AT_S = 20;

interface Pair {
  reference: Float64Array[];
  other: Float64Array[];
  sampleRateHz: number;
}

/** The same stretch of both at the reference's rate, with as many channels as both have. */
async function pairOf({ reference, other }: CompareOrder): Promise<Pair> {
  const [own, theirs] = [
    await opened(reference.audioId, reference.channels),
    await opened(other.audioId, other.channels),
  ];
  const shorter = Math.min(own.header.durationS, theirs.header.durationS);
  // Whole seconds begin on a sample at every rate.
  const fromS = Math.max(0, Math.floor((shorter - LOOKED_AT_S) / 2));
  const toS = Math.max(1, Math.min(Math.floor(shorter), fromS + LOOKED_AT_S));
  const { sampleRateHz } = own.header.format;
  const heard = [
    await stretch(own, fromS, toS, sampleRateHz),
    await stretch(theirs, fromS, toS, sampleRateHz),
  ] as const;
  const channels = Math.min(heard[0].length, heard[1].length);
  return {
    reference: heard[0].slice(0, channels),
    other: heard[1].slice(0, channels),
    sampleRateHz,
  };
}

export async function compareRecordings(order: CompareOrder): Promise<Comparison> {
  const { reference, other, sampleRateHz } = await pairOf(order);
  return compareTwo(reference, other, sampleRateHz);
}

/** What is left of the other without the reference, as a WAV file to hear. */
export async function residualRecording(order: CompareOrder): Promise<Uint8Array> {
  const { reference, other, sampleRateHz } = await pairOf(order);
  const found = findAlignment(soundOf(reference), soundOf(other), sampleRateHz);
  const { channels } = residualOf(reference, other, found);
  const loudest = Math.max(
    1,
    ...channels.map((one) => one.reduce((m, x) => Math.max(m, Math.abs(x)), 0)),
  );
  return encodeWav(
    channels.map((one) => one.map((x) => x / loudest)),
    sampleRateHz,
    24,
  );
}
