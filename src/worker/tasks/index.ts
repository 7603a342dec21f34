import { readlinkSync } from 'node:fs';
import os from 'node:os';
import { isMainThread } from 'node:worker_threads';
import { servedCopy as makeServedCopy } from '@/core/matching/copy';
import type { FloatClip } from '@/core/wav/float-clip';
import { trainingPhrases, type TrainingVariant } from '@/core/simulation/training';
import { readAcross } from '@/core/statistics/reading';
import { readAll } from '@/core/statistics/sections';
import type { CopyTask } from '@/platform/send-copy';
import type { AnalysisOrder } from '@/steps/results/service';
import { ANALYSIS, type StoredAnalysis } from '@/steps/results/schema';
import { readMaster } from './master';
import type { WithProgress } from './reporting';

export { alignTake } from './align';
export { bringComparisonIn } from './bring-in';
export { compareRecordings, residualRecording } from './compare';
export { forecastPanel } from './forecast';
export { inspectTake } from './inspect';
export { hashPackClips, packClips } from './pack';
export { pictureClips } from './picture';
export { recordOnBench } from './record';
export { relateTakes } from './relate';
export { renderClips } from './render';
export { readSittingsTogether } from './together';
export { unpackArchive } from './unpack';
export { verdictFile } from './verdict';

/** Threads give way to what answers a panel; Linux keeps the rank of each thread. */
function yieldToRequests(): void {
  if (isMainThread || process.platform !== 'linux') return;
  const [thread] = readlinkSync('/proc/thread-self').split('/').slice(-1);
  os.setPriority(Number(thread), os.constants.priority.PRIORITY_BELOW_NORMAL);
}
yieldToRequests();

/** Masters that copies were made of lately; a panel asks for the same few again and again. */
const masters = new Map<number, FloatClip>();
const MOST_BYTES = 64 << 20;

async function masterOf(audioId: number): Promise<FloatClip> {
  const kept = masters.get(audioId);
  if (kept) return kept;
  const master = await readMaster(audioId);
  const { length } = master.bytes;
  const held = [...masters.values()].reduce((sum, { bytes }) => sum + bytes.length, 0);
  if (held + length > MOST_BYTES) masters.clear();
  if (length <= MOST_BYTES) masters.set(audioId, master);
  return master;
}

/** One listener's copy of one clip, ready to send, in memory that all threads share. */
export async function servedCopy(task: CopyTask): Promise<Uint8Array> {
  const { audioId, memory, ...plan } = task;
  const master = await masterOf(audioId);
  return makeServedCopy(master, plan, (bytes) =>
    memory && memory.byteLength >= bytes
      ? new Uint8Array(memory, 0, bytes)
      : new Uint8Array(new SharedArrayBuffer(bytes)),
  );
}

/** The phrases for setting the level and for practice, at a rate. */
export function playTrainingPhrases({ sampleRateHz }: { sampleRateHz: number }): TrainingVariant[] {
  return trainingPhrases(sampleRateHz);
}

/**
 * Reads every part of a closed sitting by every section, and all of them against each other; then the same once more
 * without whom the sealed rule sets aside.
 */
export function analyseSitting({
  progress,
  ...order
}: AnalysisOrder & WithProgress): StoredAnalysis {
  const { parts, aside } = order;
  const gone = new Set(aside.map(({ listener }) => listener));
  const left = parts.map((part) => ({
    ...part,
    answers: part.answersLeft,
    observations: part.observations.filter(({ listener }) => !gone.has(listener)),
  }));
  // Each part, and all together; twice where somebody is set aside.
  const readings = (parts.length + 1) * (aside.length === 0 ? 1 : 2);
  let done = 0;
  const told = () => progress?.postMessage(++done / readings);
  return {
    reading: ANALYSIS,
    made: order.chains,
    ...readParts(order, parts, told),
    without: aside.length === 0 ? null : { aside, ...readParts(order, left, told) },
  };
}

/** @param told called when one more part, or all together, is read */
function readParts(
  { seed, plan, chains }: AnalysisOrder,
  parts: AnalysisOrder['parts'],
  told: () => void,
): Pick<StoredAnalysis, 'across' | 'parts'> {
  const all = parts.flatMap(({ observations }) => observations);
  const priced = chains.some(([, { price }]) => price !== null);
  const across = readAcross(
    { observations: all, skipped: { blank: 0, missing: 0, duplicate: 0 }, warnings: [] },
    { seed, plan, chains: { made: new Map(chains), priced } },
  );
  told();
  return {
    across,
    parts: parts.map(({ task, answers, observations }) => {
      const read = readAll(observations, { seed, made: null });
      told();
      return { task, answers, ...read };
    }),
  };
}
