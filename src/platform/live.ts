import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { config } from './config';
import type { Db } from './database';

const CHANNEL = 'zeitbank_live';
const RECONNECT_MS = 1000;

export type LiveEvent = { kind: 'changed' } | { kind: 'away' } | { kind: 'back' };
/** What is told of: a comparison by its id, or a queue by its name. */
type Subscriber = { topic: string; tell: (event: LiveEvent) => void };

/** Tells whoever follows a topic, such as every open screen of a comparison, on every process, to look again. */
export async function announce(db: Db, topic: string): Promise<void> {
  await db.rows('SELECT pg_notify($1, $2)', [CHANNEL, topic]);
}

class LiveListener {
  private readonly subscribers = new Set<Subscriber>();
  /** Changes told so far per topic, valid within one unbroken connection, the epoch. */
  private changes = new Map<string, number>();
  private epoch: string = randomUUID();
  private client: pg.Client | null = null;
  private connecting = false;
  private away = false;

  /**
   * Where the changes of a topic stand; take it before reading what a page shows, and hand it
   * to `subscribe`, so that nothing that happens between the two goes unnoticed.
   */
  mark(topic: string): string {
    void this.connect();
    return this.client ? `${this.epoch}.${this.changes.get(topic) ?? 0}` : 'unknown';
  }

  /** @param seen the mark of what the subscriber has read; an older one is told at once */
  subscribe(topic: string, seen: string, tell: Subscriber['tell']): () => void {
    const subscriber = { topic, tell };
    this.subscribers.add(subscriber);
    if (this.away) tell({ kind: 'away' });
    else if (seen !== this.mark(topic)) tell({ kind: 'changed' });
    void this.connect();
    return () => {
      this.subscribers.delete(subscriber);
    };
  }

  private async connect(): Promise<void> {
    if (this.client || this.connecting) return;
    this.connecting = true;
    const client = new pg.Client({
      connectionString: config().DATABASE_URL,
      keepAlive: true,
      connectionTimeoutMillis: 4000,
    });
    client.on('notification', ({ payload = '' }) => {
      this.changes.set(payload, (this.changes.get(payload) ?? 0) + 1);
      for (const { topic, tell } of this.subscribers) {
        if (topic === payload) tell({ kind: 'changed' });
      }
    });
    const lost = () => {
      if (this.client === client) this.client = null;
      if (!this.away) this.tellAll({ kind: 'away' });
      this.away = true;
      if (this.subscribers.size > 0) setTimeout(() => void this.connect(), RECONNECT_MS);
    };
    try {
      await client.connect();
      await client.query(`LISTEN ${CHANNEL}`);
      this.client = client;
      this.epoch = randomUUID();
      this.changes = new Map();
      client.on('error', () => undefined);
      client.on('end', lost);
      // What happened before is not known here, so whoever waits looks again.
      this.tellAll({ kind: this.away ? 'back' : 'changed' });
      this.away = false;
    } catch {
      await client.end().catch(() => undefined);
      lost();
    } finally {
      this.connecting = false;
    }
  }

  private tellAll(event: LiveEvent): void {
    for (const { tell } of this.subscribers) tell(event);
  }

  async end(): Promise<void> {
    this.subscribers.clear();
    const { client } = this;
    this.client = null;
    client?.removeAllListeners('end');
    await client?.end().catch(() => undefined);
  }
}

const shared = globalThis as { zeitbankLive?: LiveListener };

export function live(): LiveListener {
  return (shared.zeitbankLive ??= new LiveListener());
}
