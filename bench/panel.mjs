// A whole bank in a folder of its own, and simulated listeners who use it by HTTP alone.
import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import http from 'node:http';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';

const root = path.resolve(import.meta.dirname, '..');
export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Starts a demo bank and waits until it answers.
 * @param beside a bank whose PostgreSQL this one shares, with web and worker of its own
 * @param at a folder in which a bank lies already
 */
export async function startBank(port, { beside = null, at = null } = {}) {
  const data = at ?? mkdtempSync(path.join(os.tmpdir(), 'zeitbank-panel-'));
  // PostgreSQL runs as a user of its own and keeps its files here, so that they go with the rest.
  chmodSync(data, 0o755);
  const child = spawn(process.execPath, ['dist/services/supervisor.mjs'], {
    cwd: root,
    stdio: 'ignore',
    env: {
      ...process.env,
      PORT: String(port),
      ZEITBANK_MODE: at ? 'start' : 'demo',
      ZEITBANK_ROOT: root,
      ZEITBANK_DATA: data,
      // Listeners come from addresses of their own, as if a proxy passed them on: one address has few seats.
      ZEITBANK_PROXIES: '1',
      ...(beside ? { DATABASE_URL: beside.databaseUrl } : {}),
    },
  });
  const base = `http://127.0.0.1:${port}`;
  for (let i = 0; i < 600; i++) {
    const up = await fetch(`${base}/sign-in`)
      .then(({ ok }) => ok)
      .catch(() => false);
    if (up) break;
    await pause(1000);
  }
  const demo = at ? null : JSON.parse(readFileSync(path.join(data, 'demo.json'), 'utf8'));
  // A second start over one bank makes another password, which then is the one that counts.
  if (beside) beside.demo = demo;
  return {
    base,
    data,
    demo,
    pidOf: (part) => childPid(child.pid, part),
    databaseUrl: environmentOf(childPid(child.pid, 'worker.mjs')).DATABASE_URL,
    /** Kills one of the bank's processes, as if the power went. */
    kill: (part) => {
      const pid = childPid(child.pid, part);
      if (pid !== null) process.kill(pid, 'SIGKILL');
      return pid !== null;
    },
    stop: async () => {
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      await ended;
      rmSync(data, { recursive: true, force: true });
    },
  };
}

/** The bank was killed and starts again well within this. */
const GIVE_UP_MS = 60_000;

function childPid(parent, part) {
  for (const entry of readdirSync('/proc')) {
    if (!/^\d+$/.test(entry)) continue;
    try {
      const stat = readFileSync(`/proc/${entry}/stat`, 'utf8');
      const command = readFileSync(`/proc/${entry}/cmdline`, 'utf8');
      if (Number(stat.split(') ')[1].split(' ')[1]) === parent && command.includes(part)) {
        return Number(entry);
      }
    } catch {
      // It ended while we looked.
    }
  }
  return null;
}

function environmentOf(pid) {
  const entries = readFileSync(`/proc/${pid}/environ`, 'utf8').split('\0');
  return Object.fromEntries(entries.map((entry) => entry.split(/=(.*)/s).slice(0, 2)));
}

/** Asks the database, again until it answers. */
export async function query(bank, text, values = []) {
  for (;;) {
    const client = new pg.Client({ connectionString: bank.databaseUrl });
    try {
      await client.connect();
      return (await client.query(text, values)).rows;
    } catch (error) {
      if (/^(2[23]|42)/.test(error.code)) throw error;
      await pause(300);
    } finally {
      await client.end().catch(() => undefined);
    }
  }
}

/** The most memory that the worker ever held, as the kernel counted it. */
export function peakMemoryMb(bank) {
  const status = readFileSync(`/proc/${bank.pidOf('worker.mjs')}/status`, 'utf8');
  return Math.round(Number(/VmHWM:\s+(\d+)/.exec(status)[1]) / 1024);
}

/** Seconds of processor that one of the bank's processes has used. */
export function processorSeconds(bank, part) {
  const stat = readFileSync(`/proc/${bank.pidOf(part)}/stat`, 'utf8')
    .split(') ')[1]
    .split(' ');
  return (Number(stat[11]) + Number(stat[12])) / 100;
}

/** Ticks of this machine's processors so far: in all, idle, and taken by the host for others. */
function machineTicks() {
  const [line] = readFileSync('/proc/stat', 'utf8').split('\n');
  const ticks = line.split(/ +/).slice(1, 9).map(Number);
  return { all: ticks.reduce((a, b) => a + b), idle: ticks[3] + ticks[4], taken: ticks[7] };
}

/** Begins to watch the machine. @returns what it did meanwhile, in words */
export function watchMachine() {
  const before = machineTicks();
  return () => {
    const now = machineTicks();
    const share = (what) => Math.round((100 * (now[what] - before[what])) / (now.all - before.all));
    return `processors idle ${share('idle')} %, taken by the host ${share('taken')} %`;
  };
}

function request(bank, method, address, body, headers = {}) {
  return fetch(`${bank.base}${address}`, {
    method,
    headers: { 'content-type': 'application/json', origin: bank.base, ...headers },
    body: JSON.stringify(body),
  });
}

const post = (bank, address, body, headers) => request(bank, 'POST', address, body, headers);

/** Addresses are given out one after another, in a net that exists nowhere. */
let addresses = 0;
const nextAddress = () => `198.18.${(addresses >> 8) & 255}.${addresses++ & 255}`;

const cookiesOf = (response) =>
  response.headers
    .getSetCookie()
    .map((line) => line.split(';')[0])
    .join('; ');

/** The engineer's own call. @returns what the bank answered */
export async function send(bank, method, address, body) {
  if (!bank.cookie) {
    const { name, password } = bank.demo;
    bank.cookie = cookiesOf(await post(bank, '/api/sign-in', { name, password }));
  }
  const response = await request(bank, method, address, body, { cookie: bank.cookie });
  const text = await response.text();
  if (!response.ok) throw new Error(`${method} ${address}: ${text}`);
  return text === '' ? null : JSON.parse(text);
}

/** Opens a sitting of pairs over the demo's clips. @returns its link's secret */
export async function openSitting(bank, { seats, trials, title, adaptive = false }) {
  const [{ comparison, set }] = await query(
    bank,
    `SELECT comparison_id AS comparison, id AS set FROM clip_set WHERE state = 'ready'
     ORDER BY created_at LIMIT 1`,
  );
  const part = {
    task: 'pair',
    clipSetId: set,
    prompt: 'Which suits this part better?',
    tiesAllowed: true,
    trials,
    pair: null,
    adaptive,
    controls: { self: false, levelCatch: false, repeats: 0 },
    words: [],
  };
  const plan = { title, seats, codeMode: 'fresh', resetSound: 'none', room: 'own', parts: [part] };
  const sittings = `/api/comparisons/${comparison}/sittings`;
  const kept = await send(bank, 'PUT', sittings, plan);
  await send(bank, 'POST', `${sittings}/${kept.id}/open`, plan);
  const [{ token }] = await query(bank, 'SELECT token FROM sitting WHERE id = $1', [kept.id]);
  return { token, sittingId: kept.id };
}

/** Idle connections go before the server, which keeps them for five seconds, lets them go. */
const downloads = new http.Agent({ keepAlive: true, timeout: 3000 });

/** Counts what arrives and lets it go: the panel's own work must not slow the bank on the same machine. */
function bytesAt(url, headers) {
  return new Promise((resolve, reject) => {
    const request = http.get(url, { agent: downloads, headers }, (response) => {
      let bytes = 0;
      response.on('data', ({ length }) => (bytes += length));
      response.on('end', () =>
        response.statusCode === 200
          ? resolve(bytes)
          : reject(new Error(`a clip was answered with ${response.statusCode}`)),
      );
      response.on('error', reject);
    });
    request.on('error', reject);
  });
}

/** One listener's browser, as far as the bank can see it. */
export class Listener {
  constructor(bank, token, alias) {
    this.bank = bank;
    this.token = token;
    this.alias = alias;
    this.headers = { 'x-forwarded-for': nextAddress() };
    this.acknowledged = [];
    this.answerMs = [];
  }

  /** Sends until the bank has decided; a lost connection or a failing server is tried again. */
  async send(path_, body) {
    const until = Date.now() + GIVE_UP_MS;
    for (;;) {
      if (Date.now() > until) throw new Error(`${path_} was not taken for a minute`);
      const began = performance.now();
      try {
        const address = `/api/listen/${this.token}/${path_}`;
        const response = await post(this.bank, address, body, this.headers);
        if (response.status < 500) {
          const text = await response.text();
          const ms = performance.now() - began;
          return { response, ms, view: JSON.parse(text) };
        }
        await response.arrayBuffer();
      } catch {
        // The server is away; the answer is still here.
      }
      await pause(200 + 300 * Math.random());
    }
  }

  async join() {
    const joining = { alias: this.alias, playback: 'headphones', consent: true };
    for (let attempt = 1; ; attempt++) {
      const { response } = await this.send('join', joining);
      const cookie = cookiesOf(response);
      if (response.ok && cookie !== '') {
        this.headers = { ...this.headers, cookie };
        break;
      }
      // The seat was taken, but its acknowledgement was lost: come again under another name.
      joining.alias = `${this.alias} ${attempt}`;
      if (attempt > 20) throw new Error(`${this.alias} cannot join`);
    }
    await this.send('stage', { stage: 'level' });
    this.view = (await this.send('stage', { stage: 'practice' })).view;
  }

  /** @returns bytes received */
  async hear() {
    let bytes = 0;
    for (const { address } of this.view.clips) {
      const url = `${this.bank.base}/api/listen/${this.token}/clip/${address}`;
      bytes += await bytesAt(url, this.headers);
    }
    return bytes;
  }

  async answer() {
    const given = {
      position: this.view.answered + 1,
      answer: { choice: ['first', 'second', 'tie'][Math.floor(3 * Math.random())] },
      key: randomUUID(),
      heardS: [4, 4],
      switches: 2,
      durationS: 12,
    };
    const { response, ms, view } = await this.send('answer', given);
    if (!response.ok) throw new Error(`an answer was refused: ${JSON.stringify(view)}`);
    this.acknowledged.push(given);
    this.answerMs.push(ms);
    this.view = view;
  }

  get finished() {
    return this.view.phase === 'finished';
  }
}

export function quantile(values, q) {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))];
}

/** Compares what was acknowledged with what is kept. */
export async function reckon(bank, sittingId, listeners) {
  const kept = await query(
    bank,
    'SELECT idempotency_key AS key, answer FROM answer WHERE sitting_id = $1',
    [sittingId],
  );
  const byKey = new Map(kept.map((row) => [row.key, row.answer.choice]));
  const given = listeners.flatMap(({ acknowledged }) => acknowledged);
  const lost = given.filter(({ key, answer }) => byKey.get(key) !== answer.choice);
  return {
    acknowledged: given.length,
    lost: lost.length,
    doubled: kept.length - byKey.size,
    unknown: kept.length - given.length,
  };
}
