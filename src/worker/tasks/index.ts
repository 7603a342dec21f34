import { servedCopy as makeServedCopy } from '@/core/matching/copy';
import { analyzePairs, type PairAnalysis } from '@/core/statistics/pair/analyze';
import type { PairJudgement } from '@/core/statistics/pair/judgements';
import type { Warning } from '@/core/statistics/results-file';
import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';

export { inspectTake } from './inspect';
export { packClips } from './pack';
export { recordOnBench } from './record';
export { relateTakes } from './relate';
export { renderClips } from './render';
export { unpackArchive } from './unpack';

/** One listener's copy of one clip, ready to send. */
export async function servedCopy(task: {
  audioId: number;
  seed: number;
  levelLufs: number | null;
}): Promise<Uint8Array> {
  const source = await audioSource(db(), task.audioId);
  const master = await source.read(0, source.byteLength);
  return makeServedCopy(master, task.seed, task.levelLufs);
}

export function analysePairs(task: { judgements: PairJudgement[]; seed: number }): {
  analysis: PairAnalysis;
  warnings: Warning[];
} {
  return analyzePairs(task.judgements, task.seed);
}
