import { createServer, type Server } from 'node:http';
import { collectDefaultMetrics, Counter, Gauge, Registry } from 'prom-client';
import { config } from '@/platform/config';
import { copyFacts } from '@/platform/copies/store';
import { db } from '@/platform/database';
import { databaseBytes, freeBytesIn } from '@/platform/disk-space';
import { openWork } from '@/platform/jobs';
import { log } from '@/platform/log';
import { answersWritten } from '@/steps/sitting/seats';

const MS = 1000;

/** Figures, read whenever they are asked for. */
export interface Metrics {
  contentType: string;
  text(): Promise<string>;
}

/**
 * What whoever watches machines asks of a bank, as Prometheus reads it: figures only, nobody's name, no answer, no
 * chain. Each is read from the database when it is asked for.
 */
export function bankMetrics(now: () => Date): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry, prefix: 'zeitbank_worker_' });
  const gauge = (name: string, help: string, labelNames: string[] = []) =>
    new Gauge({ name: `zeitbank_${name}`, help, labelNames, registers: [registry] });
  const answers = new Counter({
    name: 'zeitbank_answers_total',
    help: 'Answers taken since the database last forgot its counts; their rate is answers per second.',
    registers: [registry],
  });
  const work = gauge('work', 'Jobs that are not done.', ['state']);
  const oldest = gauge('work_waiting_seconds', 'How long the job waits that waits longest.');
  const copyAge = gauge('copy_age_seconds', 'Age of the last copy; missing where there is none.');
  const copyBytes = gauge('copy_bytes', 'Size of the last copy.');
  const triedAge = gauge('copy_tried_age_seconds', 'Since when a copy was last brought back.');
  const triedWell = gauge('copy_tried_well', '1 where that gave back everything, else 0.');
  const disk = gauge('disk_free_bytes', 'What is free where the database or copies lie.', ['of']);
  const database = gauge('database_bytes', 'Size of the database.');

  const read = async () => {
    const at = now().getTime();
    const age = (since: Date) => (at - since.getTime()) / MS;
    const written = await answersWritten(db());
    answers.reset();
    answers.inc(written);
    database.set(await databaseBytes(db()));
    const open = await openWork(db());
    for (const state of ['waiting', 'running'] as const) work.set({ state }, open[state]);
    oldest.set(open.oldestWaiting ? age(open.oldestWaiting) : 0);
    const { lastMadeAt, bytes, lastTriedAt, lastTrialFailed } = await copyFacts(db());
    for (const one of [copyAge, copyBytes, triedAge, triedWell]) one.remove();
    if (lastMadeAt) copyAge.set(age(lastMadeAt));
    if (bytes !== null) copyBytes.set(bytes);
    if (lastTriedAt) {
      triedAge.set(age(lastTriedAt));
      triedWell.set(lastTrialFailed === null ? 1 : 0);
    }
    const { ZEITBANK_STORE: store, ZEITBANK_COPIES: copies } = config();
    for (const [of, folder] of Object.entries({ store, copies })) {
      // A folder of copies is made with the first of them.
      const free = folder ? await freeBytesIn(folder).catch(() => null) : null;
      if (free !== null) disk.set({ of }, free);
    }
  };
  return {
    contentType: registry.contentType,
    text: async () => {
      await read();
      return registry.metrics();
    },
  };
}

/** Answers `GET /metrics` on this machine alone. @returns null where the port is another's already */
export async function serveMetrics(port: number, metrics: Metrics): Promise<Server | null> {
  const server = createServer((request, response) => {
    if (request.method !== 'GET' || request.url !== '/metrics') {
      response.writeHead(404, { 'content-type': 'text/plain' }).end('Only GET /metrics is here.\n');
      return;
    }
    metrics.text().then(
      (text) => response.writeHead(200, { 'content-type': metrics.contentType }).end(text),
      (error: unknown) => {
        log.error({ err: error }, 'metrics');
        response
          .writeHead(503, { 'content-type': 'text/plain' })
          .end('The bank is not to be read.\n');
      },
    );
  });
  return new Promise((resolve) => {
    server.once('error', (error) => {
      // Of several workers on one machine the first one tells; the bank is the same.
      log.warn({ err: error }, 'metrics: not told by this worker');
      resolve(null);
    });
    server.listen(port, '127.0.0.1', () => resolve(server));
  });
}
