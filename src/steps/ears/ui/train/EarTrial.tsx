'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { type Drawn, type SessionPlan, tired, trialsOf } from '@/core/ears/session';
import { EarsError } from '@/core/ears/skill';
import { toldSkill } from '@/core/ears/skills';
import type { Given } from '@/core/ears/threshold';
import styles from '@/steps/listening/ui/listening.module.css';
import { Loading } from '@/steps/listening/ui/Loading';
import { Message } from '@/steps/listening/ui/Message';
import { Slip } from '@/steps/listening/ui/tasks/Slip';
import { TrialHead } from '@/steps/listening/ui/TrialHead';
import { usePlayer } from '@/ui/player/usePlayer';
import { useShortcuts } from '@/ui/useShortcuts';
import type { EarMaker } from './maker';
import type { useTraining } from './useTraining';

const WORDS = ['First', 'Second', 'Third'] as const;
const ORDINALS = ['first', 'second', 'third'] as const;
/** Each is heard for so long before an answer counts. */
const LEAST_HEARD_S = 0.5;

const BRAND = 'Zeitbank training';

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
  const [refusal, setRefusal] = useState<string | null>(null);
  // One trial never changes; a new object of it would have its sounds fetched anew.
  const [made] = useState(drawn);
  const fetchBytes = useCallback(
    async (slot: string) => {
      try {
        return (await maker.trial(made))[Number(slot)]!;
      } catch (error) {
        if (error instanceof EarsError) setRefusal(error.message);
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
  if (refusal) {
    return (
      <Message title="This sound does not serve" brand={BRAND}>
        <p className={styles.failure} role="alert">
          {refusal}
        </p>
        <p>What you answered is kept.</p>
        <button className={styles.main} onClick={onEnd}>
          End this session
        </button>
      </Message>
    );
  }
  if (!current || !ready) return <Loading state={current?.state ?? null} brand={BRAND} />;
  const { player, state } = current;
  const right = judged && judged.chosen === judged.drawn.odd;
  const last = judged !== null && given.length >= trials;
  const weary = judged && !last ? tired(plan, given, answers) : null;
  return (
    <main className={styles.page}>
      <TrialHead
        brand={BRAND}
        view={{ trials, answered: judged ? drawn.position + 1 : drawn.position }}
        place={`${plan.amount === null ? 'At most ' : ''}${trials} trials · this is ${drawn.position + 1}`}
      />
      <h1 className={styles.heading}>Which of the three differs?</h1>
      <p className={styles.lead}>
        {toldSkill(plan.skill, plan.choices)}. {plan.skill.hint}
        {plan.skill.loud ? '' : ' All three are equally loud.'}
      </p>
      <div className={styles.three}>
        {WORDS.map((word, slot) => (
          <div key={word} className={styles.side}>
            <Slip
              word={word}
              index={slot}
              heard={heard[slot]!}
              meant={judged?.drawn.odd === slot}
              player={player}
              state={state}
            />
            {judged ? (
              <p className={styles.hint}>
                {slot === judged.drawn.odd ? 'this one differed' : 'not this one'}
                {slot === judged.chosen ? ', your answer' : ''}
              </p>
            ) : (
              <button className={styles.choose} disabled={!open} onClick={() => choose(slot)}>
                {word} differs
              </button>
            )}
          </div>
        ))}
      </div>
      <p role="status" className={styles.prose}>
        {judged &&
          `${right ? 'Right' : 'Not this time'}: the ${ORDINALS[judged.drawn.odd]!}, by ${plan.skill.words(judged.drawn.amount)}. Hear them again if you like.`}
      </p>
      {weary && <p className={styles.caution}>{weary}</p>}
      {away && (
        <p className={styles.hint}>Without a connection your answers wait on this device; go on.</p>
      )}
      <div className={styles.foot}>
        <p className={styles.keys}>
          <kbd>1</kbd> <kbd>2</kbd> <kbd>3</kbd> hear · <kbd>q</kbd> <kbd>w</kbd> <kbd>e</kbd>{' '}
          choose · <kbd>Enter</kbd> next
        </p>
        {!judged && !open && <p className={styles.hint}>Hear all three first.</p>}
        {!last && (
          <button className={styles.plain} onClick={onEnd}>
            End here
          </button>
        )}
        {judged && (
          <button className={styles.main} onClick={onNext}>
            {last ? 'See what it came to' : 'Next'}
          </button>
        )}
      </div>
    </main>
  );
}

const SLOTS = ['0', '1', '2'];
