import { type ChildProcess, spawn } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { z } from 'zod';
import { restoreOrder, type RestoreOrder } from '@/platform/copies/order';
import { endPool } from '@/platform/database';
import { hostsOf, isLoopback } from '@/platform/hosts';
import { migrate } from '@/platform/migrate';
import { freshSetupWord } from '@/platform/sign-in/setup';
import { endThreads } from '@/platform/threads';
import { type Cluster, endProcess, startCluster } from './cluster';
import type { CopyPlace } from './copies';
import { loadDemo } from './demo';
import { Notice } from './notice';
import { restoreCopy } from './restoring';
import { runFileIn, runningElsewhere } from './running';

const DEFAULT_PORT = 3000;
const RESTART_AFTER_MS = 1000;
const READY_WITHIN_MS = 90_000;
const STOP_WITHIN_MS = 3500;
const NOTICE_STAYS_MS = 4000;
/** A web process that does not answer for so long, asked so often, is ended and started again. */
const LIVE_EVERY_MS = 5000;
const LIVE_WITHIN_MS = 15_000;
const MOST_SILENCES = 2;

const settings = z
  .object({
    PORT: z.coerce.number().int().min(1).max(65535).optional(),
    HOST: z.string().min(1).default('127.0.0.1'),
    DATABASE_URL: z.string().optional(),
    ZEITBANK_DATA: z.string().optional(),
    ZEITBANK_COPIES: z.string().optional(),
    ZEITBANK_HOSTS: z.string().optional(),
    ZEITBANK_ROOT: z.string(),
    ZEITBANK_MODE: z.enum(['demo', 'start']),
    ZEITBANK_PASSPHRASE: z.string().min(1).optional(),
  })
  .parse(process.env);

const root = settings.ZEITBANK_ROOT;
const folder = path.resolve(settings.ZEITBANK_DATA ?? path.join(root, '.zeitbank'));
const runFile = runFileIn(folder);

function say(line: string): void {
  process.stdout.write(`${line}\n`);
}

async function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, settings.HOST, () => probe.close(() => resolve(true)));
  });
}

async function choosePort(): Promise<number> {
  if (settings.PORT !== undefined) {
    if (await isFree(settings.PORT)) return settings.PORT;
    throw new Error(`Port ${settings.PORT} is in use; set PORT to another one.`);
  }
  for (let port = DEFAULT_PORT; port < DEFAULT_PORT + 100; port++) {
    if (await isFree(port)) return port;
  }
  throw new Error(`No free port from ${DEFAULT_PORT} on; set PORT.`);
}

/** A child that is started again when it ends by itself. */
class Kept {
  private child: ChildProcess | null = null;
  private ending = false;

  constructor(
    private readonly name: string,
    private readonly args: string[],
    private readonly env: NodeJS.ProcessEnv,
    private readonly ready: (child: ChildProcess) => Promise<void>,
    /** What it tells. */
    private readonly heard: (message: unknown) => void = () => undefined,
  ) {}

  async start(): Promise<void> {
    this.ending = false;
    const child = spawn(process.execPath, this.args, {
      cwd: root,
      env: { ...process.env, ...this.env },
      detached: true,
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    this.child = child;
    child.on('message', this.heard);
    child.once('exit', () => {
      if (this.ending) return;
      say(`The ${this.name} process ended; starting it again.`);
      setTimeout(() => void this.startAgain(), RESTART_AFTER_MS);
    });
    await this.ready(child);
  }

  private async startAgain(): Promise<void> {
    if (this.ending) return;
    await this.start().catch(() => undefined);
  }

  /** Ends a process that hangs; it is started again like one that ended by itself. */
  kill(): void {
    this.child?.kill('SIGKILL');
  }

  async stop(): Promise<void> {
    this.ending = true;
    if (this.child) await endProcess(this.child, 'SIGTERM', 'SIGKILL', STOP_WITHIN_MS);
  }
}

async function until(what: string, check: () => Promise<boolean>): Promise<void> {
  const began = Date.now();
  while (!(await check())) {
    if (Date.now() - began > READY_WITHIN_MS) throw new Error(`The ${what} did not start.`);
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
}

async function answers(url: string): Promise<boolean> {
  try {
    return (await fetch(url, { redirect: 'manual' })).status < 500;
  } catch {
    return false;
  }
}

/** Whether anything at all is answered, be it that the database is away. */
async function isAlive(url: string): Promise<boolean> {
  try {
    await fetch(url, { signal: AbortSignal.timeout(LIVE_WITHIN_MS) });
    return true;
  } catch {
    return false;
  }
}

async function watchWeb(web: Kept, url: string): Promise<void> {
  let silences = 0;
  while (!stopping) {
    await new Promise((resolve) => setTimeout(resolve, LIVE_EVERY_MS));
    silences = (await isAlive(url)) ? 0 : silences + 1;
    if (silences < MOST_SILENCES) continue;
    silences = 0;
    if (stopping) return;
    say('The web process does not answer; starting it again.');
    web.kill();
  }
}

let cluster: Cluster | null = null;
const children: Kept[] = [];
let stopping = false;
let restoring = false;

async function stop(code: number): Promise<void> {
  if (stopping) return;
  stopping = true;
  say('Stopping.');
  await Promise.all(children.map((child) => child.stop()));
  await endThreads().catch(() => undefined);
  await endPool().catch(() => undefined);
  await cluster?.stop();
  rmSync(runFile, { force: true });
  process.exit(code);
}

/** Stops all that works with the bank, brings a copy back, and starts it again; a notice stands there meanwhile. */
async function bringBack(
  order: RestoreOrder['restore'],
  place: CopyPlace,
  port: number,
): Promise<void> {
  if (restoring || stopping) return;
  restoring = true;
  const notice = new Notice();
  const told = (what: string) => {
    notice.said = what;
    say(what);
  };
  told(`Bringing back ${order.file}, as ${order.by} asked.`);
  // What was started last ends first: nobody asks for what is gone already.
  const [web, ...others] = [...children].reverse();
  await web?.stop();
  await notice.listen(port, settings.HOST).catch(() => say('The notice cannot be shown.'));
  for (const child of others) await child.stop();
  const failed = await restoreCopy(place, order, told);
  told(failed === null ? 'It is back.' : `It did not come back: ${failed}.`);
  // Long enough to be read by whoever waits for it.
  await new Promise((resolve) => setTimeout(resolve, NOTICE_STAYS_MS));
  await notice.close();
  restoring = false;
  for (const child of children) if (!stopping) await child.start().catch(() => child.kill());
}

function keepCluster(kept: Cluster): void {
  kept.process().once('exit', () => {
    if (stopping) return;
    say('PostgreSQL ended; starting it again.');
    const again = () => {
      if (stopping) return;
      kept.restart().then(
        () => keepCluster(kept),
        () => setTimeout(again, RESTART_AFTER_MS),
      );
    };
    again();
  });
}

async function main(): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const elsewhere = runningElsewhere(folder);
  if (elsewhere) {
    say(`Zeitbank runs from this folder already: ${elsewhere}`);
    return;
  }
  const port = await choosePort();
  const shown =
    settings.HOST === '0.0.0.0' || settings.HOST === '::' ? os.hostname() : settings.HOST;
  const address = `http://${shown}:${port}`;
  writeFileSync(runFile, JSON.stringify({ pid: process.pid, address }));
  process.on('SIGINT', () => void stop(0));
  process.on('SIGTERM', () => void stop(0));
  process.on('SIGHUP', () => void stop(0));
  let databaseUrl = settings.DATABASE_URL;
  if (!databaseUrl) {
    say('Starting PostgreSQL.');
    cluster = await startCluster(folder);
    keepCluster(cluster);
    databaseUrl = cluster.url;
    process.env.ZEITBANK_STORE = cluster.folder;
  }
  process.env.DATABASE_URL = databaseUrl;
  await migrate(databaseUrl, root);
  const passphrase = settings.ZEITBANK_PASSPHRASE ?? null;
  const copies = path.resolve(settings.ZEITBANK_COPIES ?? path.join(folder, 'copies'));
  const env = {
    DATABASE_URL: databaseUrl,
    NODE_ENV: 'production' as const,
    ZEITBANK_COPIES: copies,
  };
  say('Starting the worker.');
  // Sound goes back to the system when it is freed, instead of waiting in the allocator's own store.
  const workerEnv = { ...env, MALLOC_MMAP_THRESHOLD_: '1048576' };
  const workerArgs = [path.join(root, 'dist/services/worker.mjs')];
  const worker = new Kept('worker', workerArgs, workerEnv, (child) => {
    return new Promise((resolve, reject) => {
      child.once('message', () => resolve());
      child.once('exit', () => reject(new Error('The worker did not start.')));
    });
  });
  children.push(worker);
  await worker.start();
  const demo = settings.ZEITBANK_MODE === 'demo' ? await loadDemo(folder, say) : null;
  say('Starting the web server.');
  const setupWord = await freshSetupWord();
  const local = settings.HOST === '0.0.0.0' || settings.HOST === '::' ? '127.0.0.1' : settings.HOST;
  const webArgs = [path.join(root, 'dist/services/web.mjs')];
  const itself = `http://${local}:${port}`;
  const webEnv = { ...env, HOST: settings.HOST, PORT: String(port), ZEITBANK_ITSELF: itself };
  const place = { url: databaseUrl, folder: copies, root, passphrase };
  const web: Kept = new Kept(
    'web',
    webArgs,
    webEnv,
    () => until('web server', () => answers(`${itself}/sign-in`)),
    (message) => {
      const order = restoreOrder.safeParse(message);
      if (order.success) void bringBack(order.data.restore, place, port);
    },
  );
  children.push(web);
  await web.start();
  void watchWeb(web, `http://${local}:${port}/api/health`);
  say('');
  say(`Zeitbank is open at ${address}`);
  if (demo) {
    say(`Sign in as       ${demo.name}`);
    say(`Password         ${demo.password}`);
    if (demo.listenerToken) say(`Listener link    ${address}/listen/${demo.listenerToken}`);
  } else if (setupWord) {
    say('The first visit makes its owner: it asks for a name, a password and this setup word.');
    say(`Setup word       ${setupWord}`);
  }
  if (!isLoopback(settings.HOST)) {
    const names = [...hostsOf(settings.ZEITBANK_HOSTS, settings.HOST)].join(', ');
    say(`It answers to    ${names} (ZEITBANK_HOSTS changes that)`);
  }
  say('Stop with Ctrl-C.');
  process.send?.('ready');
}

main().catch((error: unknown) => {
  if (stopping) return;
  process.stderr.write(`zeitbank: ${error instanceof Error ? error.message : String(error)}\n`);
  void stop(1);
});
