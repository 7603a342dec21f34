import os from 'node:os';
import { MessageChannel } from 'node:worker_threads';
import pg from 'pg';
import type PgBoss from 'pg-boss';
import { config } from '@/platform/config';
import { db, dbOf, endPool, transaction } from '@/platform/database';
import { type Queue, QUEUES, RETRIES, markWork, runningWork, startBoss } from '@/platform/jobs';
import { isStoreFull, STORE_FULL } from '@/platform/errors';
import { live } from '@/platform/live';
import { log } from '@/platform/log';
import { endThreads, threads } from '@/platform/threads';
import { failClipSet, keepRenderedSet, renderOrder } from '@/steps/match/service';
import { analysisOrder, keepAnalysis } from '@/steps/results/service';
import { tidyRehearsals } from '@/steps/sitting/service';
import {
  giveUpInspection,
  type Inspection,
  archiveToUnpack,
  failArchive,
  keepInspection,
  keepRelations,
  keepUnpacked,
  relationOrder,
  tidyUploads,
} from '@/steps/takes/service';
import { findTake } from '@/steps/takes/store';
import { putAudio } from '@/platform/audio-store';
import { type BenchJob, benchJobs, failBench, keepBenchTakes } from '@/steps/takes/recording-bench';
import { measureAgain } from './measure-again';
import { renderSet } from './rendering';
import type { analyseSitting, relateTakes } from './tasks';
import type { Refusal } from './tasks/reporting';
import type { Unpacked } from './tasks/unpack';

const PROGRESS_EVERY_MS = 300;
const ORPHANS_EVERY_MS = 5000;
const TIDY_EVERY_MS = 6 * 3600 * 1000;
const REHEARSAL_LASTS_MS = 24 * 3600 * 1000;
const POLL_S = 0.5;
const AT_ONCE = Math.max(1, Math.min(2, os.availableParallelism()));
/** Sets are one more: while one is being stored, the threads work on others. */
const SIDE_BY_SIDE: Partial<Record<Queue, number>> = {
  'inspect-take': AT_ONCE,
  'render-clips': AT_ONCE + 1,
};

type Report = (share: number) => void;

/** What a job did: done, or a sentence for the engineer (which another try would not change). */
type Outcome = { refused: string } | void;

const HANDLERS: Record<Queue, (subjectId: string, report: Report) => Promise<Outcome>> = {
  'inspect-take': async (takeId, report) => {
    const take = await findTake(db(), takeId);
    if (take?.state !== 'waiting') return;
    const { audioId, channels } = take;
    const task = { audioId, channels };
    const found = await runInThread<Inspection>('inspectTake', task, report);
    await keepInspection(takeId, found, new Date());
  },
  'unpack-archive': async (archiveId, report) => {
    const archive = await archiveToUnpack(archiveId);
    if (!archive) return;
    const task = { audioId: archive.audioId };
    const made = await runInThread<Unpacked | Refusal>('unpackArchive', task, report);
    if ('refused' in made) {
      await transaction((tx) => failArchive(tx, archiveId, made.refused));
      return made;
    }
    await keepUnpacked(archive, made.files, skippedRemark(made.skipped), new Date());
  },
  'relate-takes': async (comparisonId, report) => {
    const order = await relationOrder(comparisonId);
    // While some are still being checked, the last of them asks again.
    if (!order) return;
    type Made = Awaited<ReturnType<typeof relateTakes>>;
    const found = await runInThread<Made>('relateTakes', { order }, report);
    await keepRelations(comparisonId, found);
  },
  'record-takes': async (orderId, report) => {
    const order = await benchJobs(orderId);
    if (!order) return;
    const recorded: { job: BenchJob; audioId: number }[] = [];
    await Promise.all(
      order.jobs.map(async (job) => {
        const bytes = (await threads().run(job, { name: 'recordOnBench' })) as Uint8Array;
        const audioId = await transaction((tx) => putAudio(tx, bytes, new Date()));
        recorded.push({ job, audioId });
        report(recorded.length / order.jobs.length);
      }),
    );
    const inOrder = order.jobs.flatMap((job) => recorded.find((one) => one.job === job) ?? []);
    await keepBenchTakes(orderId, order.comparisonId, inOrder, new Date());
  },
  'render-clips': async (clipSetId, report) => {
    const order = await renderOrder(clipSetId);
    if (!order) return;
    const made = await renderSet(order, runInThread, report);
    if ('refused' in made) {
      await transaction((tx) => failClipSet(tx, clipSetId, made.refused));
      return made;
    }
    await keepRenderedSet(order, made, new Date());
  },
  'analyse-sitting': async (sittingId) => {
    const order = await analysisOrder(sittingId);
    if (!order) return;
    type Made = ReturnType<typeof analyseSitting>;
    const made = (await threads().run(order, { name: 'analyseSitting' })) as Made;
    await keepAnalysis(sittingId, made);
  },
};

function skippedRemark(skipped: number): string | null {
  if (skipped === 0) return null;
  return `${skipped} other ${skipped === 1 ? 'file' : 'files'} in this archive ${skipped === 1 ? 'is' : 'are'} no WAV or FLAC and ${skipped === 1 ? 'was' : 'were'} left out.`;
}

async function runInThread<T>(name: string, task: object, report?: Report): Promise<T> {
  if (!report) return (await threads().run(task, { name })) as T;
  const { port1, port2 } = new MessageChannel();
  port1.on('message', (share: number) => report(share));
  port1.unref();
  try {
    const options = { name, transferList: [port2] };
    return (await threads().run({ ...task, progress: port2 }, options)) as T;
  } finally {
    port1.close();
  }
}

/** Holds a lock that dies with this process, so that others can see whether a job still has its worker. */
async function withJobLock<T>(jobId: string, work: () => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: config().DATABASE_URL });
  client.on('error', () => undefined);
  await client.connect();
  try {
    await client.query('SELECT pg_advisory_lock(hashtextextended($1, 1))', [jobId]);
    return await work();
  } finally {
    await client.end().catch(() => undefined);
  }
}

async function runJob(
  queue: Queue,
  job: PgBoss.JobWithMetadata<{ subjectId: string }>,
): Promise<void> {
  const { subjectId } = job.data;
  let [toldAt, settled] = [0, false];
  const report = (share: number) => {
    const now = Date.now();
    if (settled || now - toldAt < PROGRESS_EVERY_MS) return;
    toldAt = now;
    const progress = Math.min(1, Math.max(0, share));
    markWork(db(), job.id, { state: 'running', progress }, new Date()).catch(() => undefined);
  };
  await withJobLock(job.id, async () => {
    await markWork(db(), job.id, { state: 'running', progress: 0 }, new Date());
    try {
      const outcome = await HANDLERS[queue](subjectId, report);
      settled = true;
      const refused = outcome?.refused;
      await markWork(
        db(),
        job.id,
        refused
          ? { state: 'failed', progress: 1, remark: refused }
          : { state: 'done', progress: 1 },
        new Date(),
      );
    } catch (error) {
      settled = true;
      log('error', `${queue}: ${error instanceof Error ? (error.stack ?? '') : String(error)}`);
      const last = job.retryCount >= RETRIES;
      const remark = isStoreFull(error)
        ? STORE_FULL
        : last
          ? 'This did not work several times; what was there is kept. Start it again.'
          : 'This is tried again.';
      if (last && queue === 'render-clips') {
        await transaction((tx) => failClipSet(tx, subjectId, remark));
      } else if (last && queue === 'inspect-take') {
        await transaction((tx) => giveUpInspection(tx, subjectId, new Date()));
      } else if (last && queue === 'unpack-archive') {
        await transaction((tx) => failArchive(tx, subjectId, remark));
      } else if (last && queue === 'record-takes') {
        await failBench(subjectId);
      }
      await markWork(
        db(),
        job.id,
        { state: last ? 'failed' : 'waiting', progress: 0, remark },
        new Date(),
      );
      throw error;
    }
  });
}

/** Jobs whose worker died are given back to the queue at once, not only when they expire. */
async function rescueOrphans(boss: PgBoss): Promise<void> {
  for (const { job_id: jobId, queue } of await runningWork()) {
    const client = new pg.Client({ connectionString: config().DATABASE_URL });
    client.on('error', () => undefined);
    await client.connect();
    try {
      const own = dbOf(client);
      const [{ free }] = await own.rows<{ free: boolean }>(
        'SELECT pg_try_advisory_lock(hashtextextended($1, 1)) AS free',
        [jobId],
      );
      const [work] = await own.rows<{ state: string }>('SELECT state FROM work WHERE job_id = $1', [
        jobId,
      ]);
      if (!free || work?.state !== 'running') continue;
      await boss.fail(queue, jobId, { reason: 'its worker ended' });
      await markWork(own, jobId, { state: 'waiting', progress: 0 }, new Date());
    } finally {
      await client.end().catch(() => undefined);
    }
  }
}

async function main(): Promise<void> {
  const boss = await startBoss();
  // Independent work goes side by side where there are processors for it.
  const places = QUEUES.flatMap((queue) =>
    Array.from({ length: SIDE_BY_SIDE[queue] ?? 1 }, () => queue),
  );
  for (const queue of places) {
    // A new job is begun when it is told of, a waiting one when the one before is done; polling is for the rest.
    const look = () => boss.notifyWorker(place);
    const place: string = await boss.work<{ subjectId: string }>(
      queue,
      { batchSize: 1, pollingIntervalSeconds: POLL_S, includeMetadata: true },
      async ([job]) => runJob(queue, job).finally(look),
    );
    live().subscribe(queue, live().mark(queue), look);
  }
  const rescue = setInterval(
    () => void rescueOrphans(boss).catch(() => undefined),
    ORPHANS_EVERY_MS,
  );
  await rescueOrphans(boss);
  const tidy = () => {
    void tidyUploads(new Date()).catch(() => undefined);
    void tidyRehearsals(new Date(Date.now() - REHEARSAL_LASTS_MS)).catch(() => undefined);
  };
  const tidying = setInterval(tidy, TIDY_EVERY_MS);
  tidy();
  void measureAgain(runInThread).catch((error: unknown) =>
    log('error', `measuring again: ${String(error)}`),
  );
  process.send?.('ready');
  const stop = () => {
    clearInterval(rescue);
    clearInterval(tidying);
    // What runs is cut off: its job goes back to the queue and runs again to the same result.
    void Promise.allSettled([
      boss.stop({ graceful: false, wait: false }),
      endThreads(),
      endPool(),
    ]).then(() => process.exit(0));
    setTimeout(() => process.exit(0), 3000).unref();
  };
  process.once('SIGTERM', stop);
  process.once('SIGINT', stop);
  process.once('disconnect', stop);
}

main().catch((error: unknown) => {
  log('error', `worker: ${error instanceof Error ? error.message : String(error)}`);
  process.exit(1);
});
