'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { type Drawn, type SessionPlan, tired, trialsOf } from '@/core/ears/session';
import { EarsError } from '@/core/ears/skill';
import type { Given } from '@/core/ears/threshold';
import styles from '@/steps/listening/ui/listening.module.css';
import { Loading } from '@/steps/listening/ui/Loading';
import { Message } from '@/steps/listening/ui/Message';
import { Slip } from '@/steps/listening/ui/tasks/Slip';
import { TrialHead } from '@/steps/listening/ui/TrialHead';
import { RequestError } from '@/ui/request';
import { usePlayer } from '@/ui/player/usePlayer';
import { useShortcuts } from '@/ui/useShortcuts';
import type { EarMaker } from './maker';
import { useSaid } from './said';
import type { useTraining } from './useTraining';

const PLACES = ['first', 'second', 'third'] as const;
/** Each is heard for so long before an answer counts. */
const LEAST_HEARD_S = 0.5;

/** A trial that was answered, and is still looked at. */
export interface Judged {
  drawn: Drawn;
  chosen: number;
}

/** Three sounds, one of which differs; what was right is told at once. */
export function EarTrial({
  trained: { answers, away },
  plan,
  given,
  drawn,
  judged,
  maker,
  onAnswer,
  onNext,
  onEnd,
}: {
  trained: ReturnType<typeof useTraining>;
  plan: SessionPlan;
  given: readonly Given[];
  drawn: Drawn;
  judged: Judged | null;
  maker: EarMaker;
  onAnswer: (chosen: number, seconds: number) => void;
  onNext: () => void;
  onEnd: () => void;
}) {
  const { t, said } = useSaid();
  const [refusal, setRefusal] = useState<EarsError | RequestError | null>(null);
  // One trial never changes; a new object of it would have its sounds fetched anew.
  const [made] = useState(drawn);
  const fetchBytes = useCallback(
    async (slot: string) => {
      try {
        return (await maker.trial(made))[Number(slot)]!;
      } catch (error) {
        if (error instanceof EarsError || error instanceof RequestError) setRefusal(error);
        throw error;
      }
    },
    [maker, made],
  );
  const current = usePlayer(SLOTS, fetchBytes);
  const beganMs = useRef<number | null>(null);
  const ready = current?.state.ready ?? false;
  useEffect(() => {
    if (ready) beganMs.current ??= performance.now();
  }, [ready]);
  const heard = current?.state.heardS.map((seconds) => seconds >= LEAST_HEARD_S) ?? [];
  const open = heard.length > 0 && heard.every(Boolean) && judged === null;
  const choose = (slot: number) => {
    if (!current || !open) return;
    current.player.pause();
    onAnswer(slot, (performance.now() - (beganMs.current ?? performance.now())) / 1000);
  };
  useShortcuts({
    ...Object.fromEntries(
      SLOTS.map((slot) => [
        String(Number(slot) + 1),
        () => void current?.player.select(Number(slot)),
      ]),
    ),
    q: () => choose(0),
    w: () => choose(1),
    e: () => choose(2),
    // On a button Enter does what the button does.
    Enter: ({ target }) => {
      if (judged && !(target instanceof Element && target.closest('button'))) onNext();
    },
  });
  const trials = trialsOf(plan);
  const toldOf = (slot: number, { drawn: { odd }, chosen }: Judged) => {
    const told = t(slot === odd ? 'trial.differed' : 'trial.notThis');
    return slot === chosen ? t('trial.yours', { told }) : told;
  };
  if (refusal) {
    return (
      <Message title={t('unfit.heading')} brand={t('brand')}>
        <p className={styles.failure} role="alert">
          {refusal instanceof EarsError ? said.reason(refusal.reason) : refusal.message}
        </p>
        <p>{t('unfit.kept')}</p>
        <button className={styles.main} onClick={onEnd}>
          {t('unfit.end')}
        </button>
      </Message>
    );
  }
  if (!current || !ready) return <Loading state={current?.state ?? null} brand={t('brand')} />;
  const { player, state } = current;
  const right = judged && judged.chosen === judged.drawn.odd;
  const last = judged !== null && given.length >= trials;
  const weary = judged && !last ? tired(plan, given, answers) : null;
  return (
    <main className={styles.page}>
      <TrialHead
        brand={t('brand')}
        view={{ trials, answered: judged ? drawn.position + 1 : drawn.position }}
        place={t(plan.amount === null ? 'trial.placeAtMost' : 'trial.place', {
          trials,
          number: drawn.position + 1,
        })}
      />
      <h1 className={styles.heading}>{t('trial.heading')}</h1>
      <p className={styles.lead}>
        {t('trial.lead', {
          skill: said.skill(plan.skill, plan.choices),
          hint: said.hint(plan.skill),
        })}
        {plan.skill.loud ? '' : ` ${t('trial.equal')}`}
      </p>
      <div className={styles.three}>
        {PLACES.map((place, slot) => (
          <div key={place} className={styles.side}>
            <Slip
              word={t(`trial.${place}`)}
              index={slot}
              heard={heard[slot]!}
              meant={judged?.drawn.odd === slot}
              player={player}
              state={state}
            />
            {judged ? (
              <p className={styles.hint}>{toldOf(slot, judged)}</p>
            ) : (
              <button className={styles.choose} disabled={!open} onClick={() => choose(slot)}>
                {t('trial.differs', { word: t(`trial.${place}`) })}
              </button>
            )}
          </div>
        ))}
      </div>
      <p role="status" className={styles.prose}>
        {judged &&
          t(right ? 'trial.right' : 'trial.wrong', {
            which: PLACES[judged.drawn.odd]!,
            size: said.size(plan.skill, judged.drawn.amount),
          })}
      </p>
      {weary && <p className={styles.caution}>{t(`trial.${weary}`)}</p>}
      {away && <p className={styles.hint}>{t('trial.away')}</p>}
      <div className={styles.foot}>
        <p className={styles.keys}>
          <kbd>1</kbd> <kbd>2</kbd> <kbd>3</kbd> {t('trial.hear')} · <kbd>q</kbd> <kbd>w</kbd>{' '}
          <kbd>e</kbd> {t('trial.choose')} · <kbd>Enter</kbd> {t('trial.next')}
        </p>
        {!judged && !open && <p className={styles.hint}>{t('trial.hearAll')}</p>}
        {!last && (
          <button className={styles.plain} onClick={onEnd}>
            {t('trial.end')}
          </button>
        )}
        {judged && (
          <button className={styles.main} onClick={onNext}>
            {t(last ? 'trial.see' : 'trial.goOn')}
          </button>
        )}
      </div>
    </main>
  );
}

const SLOTS = ['0', '1', '2'];
