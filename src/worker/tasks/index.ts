import { servedCopy as makeServedCopy } from '@/core/matching/copy';
import { analyzePart } from '@/core/statistics/part';
import { audioSource } from '@/platform/audio-store';
import { db } from '@/platform/database';
import type { AnalysisOrder } from '@/steps/results/service';
import type { StoredAnalysis } from '@/steps/results/store';

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
  gainDb: number;
}): Promise<Uint8Array> {
  const source = await audioSource(db(), task.audioId);
  const master = await source.read(0, source.byteLength);
  return makeServedCopy(master, task.seed, task.levelLufs, task.gainDb);
}

/** Reads every part of a closed sitting. */
export function analyseSitting({ parts, seed }: AnalysisOrder): StoredAnalysis {
  return { parts: parts.map(({ task, answers }) => analyzePart(task, answers, seed)) };
}
