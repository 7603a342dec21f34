import { readlinkSync } from 'node:fs';
import os from 'node:os';
import { isMainThread } from 'node:worker_threads';
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

/** Threads give way to what answers a panel; Linux keeps the rank of each thread. */
function yieldToRequests(): void {
  if (isMainThread || process.platform !== 'linux') return;
  const [thread] = readlinkSync('/proc/thread-self').split('/').slice(-1);
  os.setPriority(Number(thread), os.constants.priority.PRIORITY_BELOW_NORMAL);
}
yieldToRequests();

/** Masters that copies were made of lately; a panel asks for the same few again and again. */
const masters = new Map<number, Uint8Array>();
const MOST_BYTES = 96 << 20;

async function masterOf(audioId: number): Promise<Uint8Array> {
  const kept = masters.get(audioId);
  if (kept) return kept;
  const source = await audioSource(db(), audioId);
  const master = await source.read(0, source.byteLength);
  const held = [...masters.values()].reduce((sum, { length }) => sum + length, 0);
  if (held + master.length > MOST_BYTES) masters.clear();
  if (master.length <= MOST_BYTES) masters.set(audioId, master);
  return master;
}

/** One listener's copy of one clip, ready to send. */
export async function servedCopy(task: {
  audioId: number;
  seed: number;
  levelLufs: number | null;
  gainDb: number;
}): Promise<Uint8Array> {
  const master = await masterOf(task.audioId);
  return makeServedCopy(master, task.seed, task.levelLufs, task.gainDb);
}

/** Reads every part of a closed sitting. */
export function analyseSitting({ parts, seed }: AnalysisOrder): StoredAnalysis {
  return { parts: parts.map(({ task, answers }) => analyzePart(task, answers, seed)) };
}
