'use client';

import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react';
import { LoopBar } from '@/ui/player/LoopBar';
import { usePlayer } from '@/ui/player/usePlayer';
import type { Answering, ListenerView } from '../schema';
import { Loading } from './Loading';
import styles from './listening.module.css';
import type { Sitting } from './useSitting';

type Choice = Answering['choice'];

const SIDES: readonly Choice[] = ['first', 'second'];

/** One pair: hear one or the other from the same place on, then choose. No way back. */
export function TrialPage({
  view,
  clips,
  fetchBytes,
  note,
  sending,
  onAnswer,
  onPractised,
}: {
  view: ListenerView;
  clips: readonly { word: string; url: string }[];
  fetchBytes: (url: string) => Promise<ArrayBuffer>;
  note: ReactNode;
  sending: Sitting['sending'];
  onAnswer: (answer: Answering) => void;
  onPractised: () => Promise<void>;
}) {
  const practice = view.phase === 'practice';
  const current = usePlayer(
    clips.map(({ url }) => url),
    fetchBytes,
  );
  const [choice, setChoice] = useState<Choice | null>(null);
  const [given, setGiven] = useState(false);
  const [keysShown, setKeysShown] = useState(false);
  const beganMs = useRef<number | null>(null);
  const ready = current?.state.ready ?? false;
  useEffect(() => {
    if (ready) beganMs.current ??= performance.now();
  }, [ready]);
  const heard = current?.state.heardS.map((seconds) => seconds >= view.leastHeardS) ?? [];
  const allHeard = heard.length > 0 && heard.every(Boolean);
  const confirm = useCallback(() => {
    if (!current || !choice || !allHeard || given) return;
    current.player.pause();
    setGiven(true);
    if (practice) {
      void onPractised().finally(() => setGiven(false));
      return;
    }
    const [firstHeardS, secondHeardS] = current.state.heardS;
    onAnswer({
      position: view.answered + 1,
      choice,
      key: crypto.randomUUID(),
      firstHeardS,
      secondHeardS,
      switches: current.state.switches,
      durationS: (performance.now() - (beganMs.current ?? performance.now())) / 1000,
    });
  }, [current, choice, allHeard, given, practice, onPractised, onAnswer, view.answered]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!current || event.altKey || event.ctrlKey || event.metaKey) return;
      const { player, state } = current;
      const onControl =
        event.target instanceof HTMLElement && event.target.closest('button, [role=slider]');
      if (event.key === '1' || event.key === '2') void player.select(Number(event.key) - 1);
      else if (event.key === ' ' && !onControl) {
        event.preventDefault();
        if (state.playing) player.pause();
        else void player.play();
      } else if (event.key === 'ArrowLeft' && allHeard) setChoice('first');
      else if (event.key === 'ArrowRight' && allHeard) setChoice('second');
      else if (event.key === 'ArrowDown' && allHeard && view.tiesAllowed) setChoice('tie');
      else if (event.key === 'Enter' && !onControl) confirm();
      else if (event.key === '?') setKeysShown((shown) => !shown);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [current, allHeard, confirm, view.tiesAllowed]);

  if (!current || !ready) return <Loading state={current?.state ?? null} />;
  const { player, state } = current;
  const choiceName =
    choice === 'tie' ? 'no preference' : choice ? clips[SIDES.indexOf(choice)].word : null;
  return (
    <main className={styles.page}>
      <header className={styles.top}>
        <span className={styles.brand}>Zeitbank sitting</span>
        <span>
          {practice
            ? 'Practice'
            : `Pair ${view.answered + 1} of ${view.trials} · about ${Math.max(1, Math.ceil(view.minutesLeft))} min left`}
        </span>
      </header>
      <div
        className={styles.progress}
        role="progressbar"
        aria-label="Pairs answered"
        aria-valuemin={0}
        aria-valuemax={view.trials}
        aria-valuenow={view.answered}
      >
        <div style={{ width: `${(100 * view.answered) / view.trials}%` }} />
      </div>
      <h1 className={styles.heading}>{practice ? 'Try it once' : view.prompt}</h1>
      <p className={styles.lead}>
        {practice
          ? 'Two versions of the cello phrase. Tap a slip to hear it; both run in step. Then choose either.'
          : `${view.title}. Judge the sound, not the performance.`}
      </p>
      <div className={styles.pair}>
        {clips.map(({ word, url }, i) => {
          const sounding = state.playing && state.selected === i;
          const chosen = choice === SIDES[i];
          return (
            <div key={url} className={styles.side} data-chosen={chosen || undefined}>
              <button
                className={styles.slip}
                aria-pressed={sounding}
                aria-label={`Hear ${word}`}
                onClick={() => (sounding ? player.pause() : void player.select(i))}
              >
                <span className={styles.word}>{word}</span>
                <span className={styles.hint}>
                  {sounding ? 'sounding' : heard[i] ? 'heard' : 'tap to hear'}
                </span>
              </button>
              <button
                className={styles.choose}
                aria-pressed={chosen}
                disabled={!allHeard || given}
                onClick={() => setChoice(SIDES[i])}
              >
                {chosen ? '✓ ' : ''}
                {word} suits better
              </button>
            </div>
          );
        })}
      </div>
      {view.tiesAllowed && (
        <button
          className={styles.tie}
          aria-pressed={choice === 'tie'}
          disabled={!allHeard || given}
          onClick={() => setChoice('tie')}
        >
          {choice === 'tie' ? '✓ ' : ''}No preference
        </button>
      )}
      <LoopBar player={player} state={state} />
      {note}
      {sending === 'waiting' && (
        <p role="status" className={styles.caution}>
          The connection is away. Your answer is kept here and is sent as soon as it can be.
        </p>
      )}
      <div className={styles.foot}>
        <div className={styles.keys}>
          {keysShown ? (
            <>
              <kbd>1</kbd> <kbd>2</kbd> hear · <kbd>space</kbd> pause · <kbd>←</kbd> <kbd>→</kbd>{' '}
              choose
              {view.tiesAllowed && (
                <>
                  {' '}
                  · <kbd>↓</kbd> no preference
                </>
              )}{' '}
              · <kbd>Enter</kbd> confirm
            </>
          ) : (
            <button className={styles.plain} onClick={() => setKeysShown(true)}>
              <kbd>?</kbd> all keys
            </button>
          )}
        </div>
        <p className={styles.hint} aria-live="polite">
          {!allHeard
            ? `Hear ${clips
                .filter((_, i) => !heard[i])
                .map(({ word }) => word)
                .join(' and ')} first.`
            : choiceName
              ? `You choose: ${choiceName}. There is no way back.`
              : 'Now choose.'}
        </p>
        <button className={styles.main} disabled={!choice || !allHeard || given} onClick={confirm}>
          {given ? 'Keeping …' : practice ? 'Begin the sitting' : 'Done with this pair'}
        </button>
      </div>
    </main>
  );
}
