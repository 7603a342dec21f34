'use client';

import { useCallback, useMemo, useState } from 'react';
import { useTranslations } from 'use-intl';
import { z } from 'zod';
import { type Answered, standingOf } from '@/core/ears/session';
import { skillOf } from '@/core/ears/skills';
import { Outbox, type OutboxState } from '@/ui/outbox';
import { request } from '@/ui/request';
import { useOutbox } from '@/ui/useOutbox';
import { failureText } from '@/steps/listening/ui/failure-text';
import { EARS, TRAINING } from '../../endpoints';
import {
  type EarAnswer,
  earAnswer,
  type OpenSession,
  type SessionDraft,
  type Training,
} from '../../schema';

/** How the bank is asked: for whoever is signed in, or by a link. */
export function asking(token: string | null) {
  if (token === null) {
    return {
      view: () => request(EARS.view, {}),
      begin: (draft: SessionDraft) => request(EARS.begin, {}, draft),
      answer: (answer: EarAnswer) => request(EARS.answer, {}, answer),
      end: (sessionId: string) => request(EARS.end, {}, { sessionId }),
      share: null,
    };
  }
  return {
    view: () => request(TRAINING.view, { token }),
    begin: (draft: SessionDraft) => request(TRAINING.begin, { token }, draft),
    answer: (answer: EarAnswer) => request(TRAINING.answer, { token }, answer),
    end: (sessionId: string) => request(TRAINING.end, { token }, { sessionId }),
    share: (shares: boolean) => request(TRAINING.share, { token }, { shares }),
  };
}

const stored = z.array(earAnswer);
const EMPTY: OutboxState<EarAnswer> = { waiting: [], kept: 'on this device', standing: 'idle' };

/** An answer with the size it was given to, which the bank works out as well. */
function placed(
  { skill: id, choices, amount, seed }: OpenSession,
  before: readonly Answered[],
  { chosen, seconds }: Pick<Answered, 'chosen' | 'seconds'>,
): Answered {
  const skill = skillOf(id);
  const next = skill && standingOf({ skill, choices, amount, seed }, before).next;
  return { chosen, seconds, place: next?.place ?? 1 };
}

/** Training as the bank has it, with the answers that are still on their way to it. */
export function useTraining(token: string | null, initial: Training) {
  const t = useTranslations('listening');
  const [view, setView] = useState(initial);
  const [failure, setFailure] = useState<string | null>(null);
  const ask = useMemo(() => asking(token), [token]);
  /** Answers given on this page, by session. */
  const [given, setGiven] = useState<{ sessionId: string; answers: Answered[] } | null>(null);
  const outbox = useMemo(
    () =>
      typeof window === 'undefined'
        ? null
        : new Outbox<EarAnswer>({
            name: `zeitbank training ${token ?? 'own'}`,
            read: (kept) => stored.parse(kept),
            idOf: ({ sessionId, position }) => `${sessionId} ${position}`,
            atOnce: 1,
            storage: () => window.localStorage,
            send: async ([answer]) => {
              await ask.answer(answer!);
            },
            refused: {
              drop: async (said) => {
                setFailure(said);
                setGiven(null);
                await ask
                  .view()
                  .then(setView)
                  .catch(() => undefined);
              },
            },
          }),
    [token, ask],
  );
  const { waiting, standing } = useOutbox(outbox, EMPTY);
  const { open } = view;
  const known = open && given?.sessionId === open.id ? given.answers : (open?.answers ?? []);
  // What an earlier visit left on this device comes after what the bank has.
  const late = open
    ? waiting.filter(({ sessionId, position }) => sessionId === open.id && position >= known.length)
    : [];
  const answers = open ? late.reduce((all, one) => [...all, placed(open, all, one)], known) : known;

  const change = useCallback(
    async (asked: Promise<Training>) => {
      setFailure(null);
      try {
        setView(await asked);
        setGiven(null);
      } catch (error) {
        setFailure(failureText(t, error));
      }
    },
    [t],
  );
  return {
    view,
    failure,
    answers,
    /** Whether answers wait for the connection. */
    away: waiting.length > 0 && standing === 'away',
    /** Whether the bank has everything. */
    settled: waiting.length === 0,
    begin: (draft: SessionDraft) => change(ask.begin(draft)),
    end: () => (open ? change(ask.end(open.id)) : Promise.resolve()),
    refresh: () => change(ask.view()),
    share: ask.share && ((shares: boolean) => change(ask.share(shares))),
    answer: (answered: Pick<Answered, 'chosen' | 'seconds'>) => {
      if (!open) return;
      setGiven({ sessionId: open.id, answers: [...answers, placed(open, answers, answered)] });
      outbox?.put({ sessionId: open.id, position: answers.length, ...answered });
    },
  };
}
