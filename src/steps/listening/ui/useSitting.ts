'use client';

import { useCallback, useEffect, useMemo, useState } from 'react';
import { useLocale, useTranslations } from 'use-intl';
import { z } from 'zod';
import { useKeptPage } from '@/ui/offline/useKeptPage';
import { Outbox, type OutboxState } from '@/ui/outbox';
import { request, RequestError } from '@/ui/request';
import { useOutbox } from '@/ui/useOutbox';
import { type Answering, answering, type Joining, type StageDone } from '../schema';
import type { ListenerView } from '../views';
import { failureText } from './failure-text';
import { LISTENING } from '@/steps/listening/endpoints';

export interface Sitting {
  view: ListenerView;
  /** Where an answer is kept that the connection makes wait; null when none waits. */
  waiting: OutboxState<Answering>['kept'] | null;
  /** Whether this page was opened without a connection, and so may show what is long past. */
  away: boolean;
  failure: string | null;
  join: (joining: Joining) => Promise<void>;
  /** Goes on with a seat that was begun elsewhere. */
  addDevice: () => Promise<void>;
  finishStage: (done: StageDone) => Promise<void>;
  answer: (answer: Answering) => void;
  /** Asks where the room stands. */
  refresh: () => Promise<void>;
}

/** After how long a page that was opened without a connection asks again. */
const ASK_AGAIN_MS = 4000;
const stored = z.array(answering);
const EMPTY: OutboxState<Answering> = { waiting: [], kept: 'on this device', standing: 'idle' };

/** The listener's place in the sitting; answers are kept here until the server has them. */
export function useSitting(token: string, initial: ListenerView): Sitting {
  const t = useTranslations('listening');
  const [view, setView] = useState(initial);
  const [failure, setFailure] = useState<string | null>(null);
  const outbox = useMemo(
    () =>
      typeof window === 'undefined'
        ? null
        : new Outbox<Answering>({
            name: `zeitbank answers ${token}`,
            read: (kept) => stored.parse(kept),
            idOf: ({ key }) => key,
            atOnce: 1,
            storage: () => window.localStorage,
            send: async ([answer]) => {
              setView(await request(LISTENING.answer, { token }, answer!));
              setFailure(null);
            },
            refused: {
              // The server has decided about this answer; ask it where we stand.
              drop: async (said) => {
                setFailure(said);
                await request(LISTENING.view, { token })
                  .then(setView)
                  .catch(() => undefined);
              },
            },
          }),
    [token],
  );
  const { waiting, kept, standing } = useOutbox(outbox, EMPTY);

  useKeptPage(useLocale());
  const [away, setAway] = useState(false);
  useEffect(() => {
    // Only a page that was kept can come without a connection.
    if (!navigator.serviceWorker?.controller) return;
    let timer: ReturnType<typeof setTimeout>;
    let left = false;
    const ask = async () => {
      clearTimeout(timer);
      try {
        const fresh = await request(LISTENING.view, { token });
        if (left) return;
        if (outbox?.snapshot().waiting.length === 0) setView(fresh);
        setAway(false);
      } catch (error) {
        if (left || !(error instanceof RequestError) || error.status !== 0) return;
        setAway(true);
        timer = setTimeout(() => void ask(), ASK_AGAIN_MS);
      }
    };
    const askNow = () => void ask();
    askNow();
    window.addEventListener('online', askNow);
    return () => {
      left = true;
      clearTimeout(timer);
      window.removeEventListener('online', askNow);
    };
  }, [token, outbox]);

  const idle = waiting.length === 0;
  const refresh = useCallback(async () => {
    // What waits to be sent decides first.
    if (!idle) return;
    await request(LISTENING.view, { token })
      .then((fresh) => {
        if (outbox?.snapshot().waiting.length === 0) setView(fresh);
      })
      .catch(() => undefined);
  }, [token, idle, outbox]);

  const change = async (asked: Promise<ListenerView>) => {
    setFailure(null);
    try {
      setView(await asked);
    } catch (error) {
      setFailure(failureText(t, error));
      const fresh = await request(LISTENING.view, { token }).catch(() => null);
      if (fresh) setView(fresh);
    }
  };
  return {
    view,
    waiting: idle || standing !== 'away' ? null : kept,
    away,
    failure,
    join: (joining) => change(request(LISTENING.join, { token }, joining)),
    addDevice: () => change(request(LISTENING.addDevice, { token })),
    refresh,
    finishStage: (done) => change(request(LISTENING.stageDone, { token }, done)),
    answer: (answer) => outbox?.put(answer),
  };
}
