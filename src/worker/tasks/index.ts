import { readlinkSync } from 'node:fs';
import os from 'node:os';
import { isMainThread } from 'node:worker_threads';
import { type Master, servedCopy as makeServedCopy } from '@/core/matching/copy';
import { analyzePart } from '@/core/statistics/part';
import type { CopyTask } from '@/platform/send-copy';
import type { AnalysisOrder } from '@/steps/results/service';
import type { StoredAnalysis } from '@/steps/results/store';
import { readMaster } from './master';

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
const masters = new Map<number, Master>();
const MOST_BYTES = 128 << 20;

const bytesOf = ({ channels }: Master) => 8 * channels.length * channels[0].length;

async function masterOf(audioId: number): Promise<Master> {
  const kept = masters.get(audioId);
  if (kept) return kept;
  const master = await readMaster(audioId);
  const held = [...masters.values()].reduce((sum, one) => sum + bytesOf(one), 0);
  if (held + bytesOf(master) > MOST_BYTES) masters.clear();
  if (bytesOf(master) <= MOST_BYTES) masters.set(audioId, master);
  return master;
}

/** One listener's copy of one clip, ready to send, in memory that all threads share. */
export async function servedCopy(task: CopyTask): Promise<Uint8Array> {
  const { audioId, seed, levelLufs, gainDb, memory } = task;
  const master = await masterOf(audioId);
  return makeServedCopy(master, seed, levelLufs, gainDb, (bytes) =>
    memory && memory.byteLength >= bytes
      ? new Uint8Array(memory, 0, bytes)
      : new Uint8Array(new SharedArrayBuffer(bytes)),
  );
}

/** Reads every part of a closed sitting. */
export function analyseSitting({ parts, seed }: AnalysisOrder): StoredAnalysis {
  return { parts: parts.map(({ task, answers }) => analyzePart(task, answers, seed)) };
}
