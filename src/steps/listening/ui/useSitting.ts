'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { request, RequestError } from '@/ui/request';
import type { Answering, Joining, ListenerView, StageDone } from '../schema';
import { readOutbox, writeOutbox } from './outbox';

const FIRST_RETRY_MS = 800;
const LONGEST_RETRY_MS = 8000;

export interface Sitting {
  view: ListenerView;
  /** An answer is on its way; said when the connection makes it wait. */
  sending: 'no' | 'sending' | 'waiting';
  failure: string | null;
  join: (joining: Joining) => Promise<void>;
  finishStage: (done: StageDone) => Promise<void>;
  answer: (answer: Answering) => void;
  /** Asks where the room stands. */
  refresh: () => Promise<void>;
}

function sentence(error: unknown): string {
  return error instanceof RequestError ? error.message : 'This did not work; try again.';
}

/** The listener's place in the sitting; answers are kept here until the server has them. */
export function useSitting(token: string, initial: ListenerView): Sitting {
  const [view, setView] = useState(initial);
  const [sending, setSending] = useState<Sitting['sending']>('no');
  const [failure, setFailure] = useState<string | null>(null);
  const flushing = useRef(false);
  const wake = useRef<() => void>(() => undefined);
  const base = `/api/listen/${token}`;

  const flush = useCallback(async () => {
    if (flushing.current) return;
    flushing.current = true;
    let wait = FIRST_RETRY_MS;
    for (let [next] = readOutbox(token); next; [next] = readOutbox(token)) {
      setSending((now) => (now === 'waiting' ? now : 'sending'));
      try {
        const fresh = await request<ListenerView>('POST', `${base}/answer`, next);
        writeOutbox(token, readOutbox(token).slice(1));
        setFailure(null);
        setView(fresh);
      } catch (error) {
        const status = error instanceof RequestError ? error.status : 0;
        if (status === 0 || status >= 500 || status === 429) {
          setSending('waiting');
          await new Promise<void>((resolve) => {
            wake.current = resolve;
            setTimeout(resolve, wait);
          });
          wait = Math.min(2 * wait, LONGEST_RETRY_MS);
          continue;
        }
        // The server has decided about this answer; ask it where we stand.
        writeOutbox(token, readOutbox(token).slice(1));
        setFailure(sentence(error));
        await request<ListenerView>('GET', `${base}/view`)
          .then(setView)
          .catch(() => undefined);
      }
    }
    flushing.current = false;
    setSending('no');
  }, [base, token]);

  useEffect(() => {
    // Answers that an earlier visit left behind.
    const timer = setTimeout(() => void flush(), 0);
    const online = () => wake.current();
    window.addEventListener('online', online);
    return () => {
      clearTimeout(timer);
      window.removeEventListener('online', online);
    };
  }, [flush]);

  const refresh = useCallback(async () => {
    // What waits to be sent decides first.
    if (flushing.current) return;
    await request<ListenerView>('GET', `${base}/view`)
      .then((fresh) => {
        if (!flushing.current) setView(fresh);
      })
      .catch(() => undefined);
  }, [base]);

  const change = async (path: string, body: unknown) => {
    setFailure(null);
    try {
      setView(await request<ListenerView>('POST', `${base}/${path}`, body));
    } catch (error) {
      setFailure(sentence(error));
      const fresh = await request<ListenerView>('GET', `${base}/view`).catch(() => null);
      if (fresh) setView(fresh);
    }
  };
  return {
    view,
    sending,
    failure,
    join: (joining) => change('join', joining),
    refresh,
    finishStage: (done) => change('stage', done),
    answer: (answer) => {
      writeOutbox(token, [...readOutbox(token), answer]);
      void flush();
    },
  };
}
