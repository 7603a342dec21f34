import { type LogEntry, logEntries } from '@/steps/takes/log-entry';
import { request, RequestError } from '@/ui/request';

const RETRY_MS = 3000;
const AWAY = 'The connection is away; entries are kept on this device.';
const EMPTY: readonly LogEntry[] = [];
const stored = logEntries.shape.entries;

export interface OutboxState {
  /** Written here and not yet known to the bank. */
  waiting: readonly LogEntry[];
  /** Taken by the bank, perhaps not yet in what the page was read from. */
  taken: readonly LogEntry[];
  /** Why the last attempt failed: the connection, or a sentence of the bank. */
  trouble: string | null;
}

/**
 * What is written at the stand, kept in the browser until the bank has it. Sent again after a lost
 * connection; the bank takes the later entry of a line, so nothing is doubled and nothing older wins.
 */
export class LogOutbox {
  private state: OutboxState = { waiting: EMPTY, taken: EMPTY, trouble: null };
  private readonly listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending = false;
  private readonly key: string;

  constructor(
    private readonly url: string,
    comparisonId: string,
    private readonly storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>,
  ) {
    this.key = `zeitbank run sheet ${comparisonId}`;
    const text = storage.getItem(this.key);
    const kept = text === null ? null : stored.safeParse(parsed(text));
    if (kept?.success) this.state = { ...this.state, waiting: kept.data };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): OutboxState => this.state;

  private show(state: OutboxState): void {
    this.state = state;
    if (state.waiting.length === 0) this.storage.removeItem(this.key);
    else this.storage.setItem(this.key, JSON.stringify(state.waiting));
    for (const listener of this.listeners) listener();
  }

  put(entry: LogEntry): void {
    const others = this.state.waiting.filter(({ lineId }) => lineId !== entry.lineId);
    this.show({ ...this.state, waiting: [...others, entry] });
    void this.flush();
  }

  async flush(): Promise<void> {
    clearTimeout(this.timer);
    if (this.sending || this.state.waiting.length === 0) return;
    this.sending = true;
    const sent = this.state.waiting;
    let [trouble, refused]: [string | null, boolean] = [null, false];
    try {
      await request('PUT', this.url, { entries: sent });
      this.show({
        waiting: this.state.waiting.filter((one) => !sent.includes(one)),
        taken: [
          ...this.state.taken.filter((one) => !sent.some(({ lineId }) => lineId === one.lineId)),
          ...sent,
        ],
        trouble: null,
      });
    } catch (error) {
      refused = error instanceof RequestError && error.status > 0 && error.status < 500;
      const said = error instanceof RequestError && refused ? error.message : AWAY;
      trouble = said;
      this.show({ ...this.state, trouble });
    } finally {
      this.sending = false;
    }
    // What the bank refuses is not sent again until something else is written.
    if (this.state.waiting.length > 0 && !refused) {
      this.timer = setTimeout(() => void this.flush(), trouble === null ? 0 : RETRY_MS);
    }
  }

  stop(): void {
    clearTimeout(this.timer);
  }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
