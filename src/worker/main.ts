import { MessageChannel } from 'node:worker_threads';
import pg from 'pg';
import type PgBoss from 'pg-boss';
import { config } from '@/platform/config';
import { db, dbOf, endPool, transaction } from '@/platform/database';
import {
  type Queue,
  QUEUES,
  RETRIES,
  markProgress,
  runningJobs,
  startBoss,
  tidyProgress,
} from '@/platform/jobs';
import { isStoreFull, STORE_FULL } from '@/platform/errors';
import { live } from '@/platform/live';
import { log } from '@/platform/log';
import { endThreads, threads } from '@/platform/threads';
import { one } from '@/platform/one';
import { tidyRehearsals } from '@/steps/sitting/service';
import { tidyRemovedTakes, tidyUploads } from '@/steps/takes/service';
import { endTrialNow, seeToCopies, somethingIsDue } from './copies';
import { JOBS } from './jobs';
import type { Job, Report } from './jobs/job';
import { measureAgain } from './measure-again';
import { bankMetrics, serveMetrics } from './metrics';

const PROGRESS_EVERY_MS = 300;
const ORPHANS_EVERY_MS = 5000;
const TIDY_EVERY_MS = 6 * 3600 * 1000;
const COPIES_EVERY_MS = 10_000;
const REHEARSAL_LASTS_MS = 24 * 3600 * 1000;
const POLL_S = 0.5;

/** Whether this process was told to end. */
let stopping = false;

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
  /** What was told on the way is written before the end is: a late word would leave it running for ever. */
  let told = Promise.resolve();
  const report = (share: number) => {
    const now = Date.now();
    if (settled || now - toldAt < PROGRESS_EVERY_MS) return;
    toldAt = now;
    const progress = Math.min(1, Math.max(0, share));
    told = told
      .then(() => markProgress(db(), job.id, { state: 'running', progress }, new Date()))
      .catch(() => undefined);
  };
  await withJobLock(job.id, async () => {
    await markProgress(db(), job.id, { state: 'running', progress: 0 }, new Date());
    try {
      const outcome = await JOBS[queue].run(subjectId, runInThread, report);
      settled = true;
      await told;
      const refused = outcome?.refused;
      await markProgress(
        db(),
        job.id,
        refused
          ? { state: 'failed', progress: 1, remark: refused }
          : { state: 'done', progress: 1 },
        new Date(),
      );
    } catch (error) {
      settled = true;
      await told;
      // What is cut off by stopping runs again at the next start.
      if (!stopping) log.error({ err: error, queue }, 'a job failed');
      const last = job.retryCount >= RETRIES;
      const remark = isStoreFull(error)
        ? STORE_FULL
        : last
          ? 'This did not work several times; what was there is kept. Start it again.'
          : 'This is tried again.';
      if (last) {
        const given: Job = JOBS[queue];
        await transaction(async (tx) => given.giveUp?.(tx, subjectId, remark, new Date()));
      }
      await markProgress(
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
  for (const { job_id: jobId, queue } of await runningJobs()) {
    const client = new pg.Client({ connectionString: config().DATABASE_URL });
    client.on('error', () => undefined);
    await client.connect();
    try {
      const own = dbOf(client);
      const { free } = await one(
        own.rows<{ free: boolean }>(
          'SELECT pg_try_advisory_lock(hashtextextended($1, 1)) AS free',
          [jobId],
        ),
      );
      const [work] = await own.rows<{ state: string }>('SELECT state FROM work WHERE job_id = $1', [
        jobId,
      ]);
      if (!free || work?.state !== 'running') continue;
      await boss.fail(queue, jobId, { reason: 'its worker ended' });
      await markProgress(own, jobId, { state: 'waiting', progress: 0 }, new Date());
    } finally {
      await client.end().catch(() => undefined);
    }
  }
}

async function main(): Promise<void> {
  const boss = await startBoss();
  // Independent work goes side by side where there are processors for it.
  const places = QUEUES.flatMap((queue) =>
    Array.from({ length: JOBS[queue].atOnce ?? 1 }, () => queue),
  );
  for (const queue of places) {
    // A new job is begun when it is told of, a waiting one when the one before is done; polling is for the rest.
    const look = () => boss.notifyWorker(place);
    const place: string = await boss.work<{ subjectId: string }>(
      queue,
      { batchSize: 1, pollingIntervalSeconds: POLL_S, includeMetadata: true },
      async ([job]) => runJob(queue, job!).finally(look),
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
    void tidyRemovedTakes(new Date()).catch(() => undefined);
    void tidyProgress(db(), new Date()).catch(() => undefined);
    void tidyRehearsals(new Date(Date.now() - REHEARSAL_LASTS_MS)).catch(() => undefined);
  };
  const tidying = setInterval(tidy, TIDY_EVERY_MS);
  tidy();
  void measureAgain(runInThread).catch((error: unknown) =>
    log.error({ err: error }, 'measuring again'),
  );
  const { DATABASE_URL: url, ZEITBANK_COPIES: copies } = config();
  const { ZEITBANK_ROOT: root, ZEITBANK_PASSPHRASE: passphrase = null } = config();
  let seeing = false;
  const see = async () => {
    if (seeing || !copies) return;
    seeing = true;
    try {
      const place = { url, folder: copies, root, passphrase };
      if (await somethingIsDue(new Date(), copies)) await seeToCopies(place, () => new Date());
    } catch (error) {
      if (!stopping) log.error({ err: error }, 'copies of the bank');
    } finally {
      seeing = false;
    }
  };
  const copying = setInterval(() => void see(), COPIES_EVERY_MS);
  const { ZEITBANK_METRICS_PORT: metricsPort } = config();
  const told =
    metricsPort === undefined
      ? null
      : await serveMetrics(
          metricsPort,
          bankMetrics(() => new Date()),
        );
  process.send?.('ready');
  const stop = () => {
    stopping = true;
    clearInterval(rescue);
    clearInterval(tidying);
    clearInterval(copying);
    told?.close();
    // What runs is cut off: its job goes back to the queue and runs again to the same result.
    void Promise.allSettled([
      boss.stop({ graceful: false, wait: false }),
      endThreads(),
      endTrialNow(),
      endPool(),
    ]).then(() => process.exit(0));
    setTimeout(() => process.exit(0), 3000).unref();
  };
  process.once('SIGTERM', stop);
  process.once('SIGINT', stop);
  process.once('disconnect', stop);
}

main().catch((error: unknown) => {
  log.fatal({ err: error }, 'worker: ended');
  process.exit(1);
});
