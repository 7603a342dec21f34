import { RequestError } from './request';

const FIRST_RETRY_MS = 800;
const LONGEST_RETRY_MS = 8000;

/** What waits to be taken by the bank. */
export interface OutboxState<T> {
  waiting: readonly T[];
  /** Whether it would outlive this page: a browser may refuse to store anything. */
  kept: 'on this device' | 'in this page only';
  /** Sending, or why it waits: the connection, or a sentence of the bank. */
  standing: 'idle' | 'sending' | 'away' | { refused: string };
}

export interface OutboxOptions<T> {
  /** Under which name it is stored. */
  name: string;
  /** Entries that an earlier visit stored; throws when they are none. */
  read: (stored: unknown) => T[];
  idOf: (entry: T) => string;
  /** Whether a later entry makes an earlier one needless. */
  replaces?: (later: T, earlier: T) => boolean;
  /** Sends some of what waits, in order. @throws RequestError */
  send: (entries: readonly T[]) => Promise<void>;
  /** How many go in one request. */
  atOnce: number;
  /** What the bank refused is dropped and told, or kept until something else is written. */
  refused: { drop: (sentence: string) => Promise<void> } | 'keep';
  /** Throws where a browser refuses it. */
  storage: () => Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;
}

/**
 * What somebody wrote, until the bank acknowledges it. It waits in memory and, where the browser lets it, on the
 * device, so that it outlives a reload and a closed tab; sent again after a lost connection, each once.
 */
export class Outbox<T> {
  private state: OutboxState<T>;
  private readonly listeners = new Set<() => void>();
  private readonly taken = new Set<string>();
  private flushing = false;
  private stopped = false;
  private wake: () => void = () => undefined;

  constructor(private readonly options: OutboxOptions<T>) {
    const stored = this.stored();
    this.state = {
      waiting: stored ?? [],
      kept: stored ? 'on this device' : 'in this page only',
      standing: 'idle',
    };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): OutboxState<T> => this.state;

  /** What lies on the device; null where nothing can be stored. */
  private stored(): T[] | null {
    const { storage, name, read } = this.options;
    let text: string | null;
    try {
      text = storage().getItem(name);
    } catch {
      return null;
    }
    try {
      return text === null ? [] : read(JSON.parse(text));
    } catch {
      return [];
    }
  }

  /** Stores what waits here beside what another page of the same device has waiting. */
  private store(waiting: readonly T[]): OutboxState<T>['kept'] {
    const { storage, name, idOf, replaces } = this.options;
    const here = new Set(waiting.map(idOf));
    const others = (this.stored() ?? []).filter(
      (one) =>
        !here.has(idOf(one)) &&
        !this.taken.has(idOf(one)) &&
        !waiting.some((later) => replaces?.(later, one)),
    );
    const all = [...others, ...waiting];
    try {
      if (all.length === 0) storage().removeItem(name);
      else storage().setItem(name, JSON.stringify(all));
      return 'on this device';
    } catch {
      return 'in this page only';
    }
  }

  private show(change: Partial<OutboxState<T>>): void {
    const state = { ...this.state, ...change };
    this.state = change.waiting ? { ...state, kept: this.store(state.waiting) } : state;
    for (const listener of this.listeners) listener();
  }

  put(entry: T): void {
    const { replaces } = this.options;
    const others = this.state.waiting.filter((earlier) => !replaces?.(entry, earlier));
    this.show({ waiting: [...others, entry] });
    void this.flush();
  }

  private letGo(entries: readonly T[]): void {
    const { idOf } = this.options;
    for (const entry of entries) this.taken.add(idOf(entry));
    this.show({ waiting: this.state.waiting.filter((one) => !this.taken.has(idOf(one))) });
  }

  /** Sends what waits, until nothing does or the bank refuses. */
  async flush(): Promise<void> {
    if (this.flushing || this.stopped) return;
    this.flushing = true;
    let wait = FIRST_RETRY_MS;
    try {
      while (this.state.waiting.length > 0 && !this.stopped) {
        const sent = this.state.waiting.slice(0, this.options.atOnce);
        if (this.state.standing !== 'away') this.show({ standing: 'sending' });
        try {
          await this.options.send(sent);
          this.letGo(sent);
          wait = FIRST_RETRY_MS;
          this.show({ standing: 'sending' });
        } catch (error) {
          const status = error instanceof RequestError ? error.status : 0;
          if (status === 0 || status >= 500 || status === 429) {
            this.show({ standing: 'away' });
            await this.pause(wait);
            wait = Math.min(2 * wait, LONGEST_RETRY_MS);
            continue;
          }
          const sentence = error instanceof Error ? error.message : 'This did not work.';
          const { refused } = this.options;
          if (refused === 'keep') {
            this.show({ standing: { refused: sentence } });
            return;
          }
          this.letGo(sent);
          await refused.drop(sentence);
        }
      }
      this.show({ standing: 'idle' });
    } finally {
      this.flushing = false;
    }
  }

  private pause(ms: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, ms);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }

  /** The connection is back, as far as the browser knows. */
  readonly tryNow = (): void => {
    this.wake();
    void this.flush();
  };

  /** @returns what ends it; what waits stays where it is */
  start(): () => void {
    this.stopped = false;
    void this.flush();
    return () => {
      this.stopped = true;
      this.wake();
    };
  }
}
