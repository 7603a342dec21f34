'use client';

import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react';
import { useTranslations } from 'use-intl';
import type { Answer } from '@/core/tasks/task';
import { LoopBar } from '@/ui/player/LoopBar';
import { usePlayer } from '@/ui/player/usePlayer';
import { useShortcuts } from '@/ui/useShortcuts';
import type { Answering } from '../schema';
import type { ListenerView } from '../views';
import { LevelNote } from './LevelNote';
import { Loading } from './Loading';
import styles from './listening.module.css';
import { RemarkField } from './RemarkField';
import { placeOf, TrialHead } from './TrialHead';
import { TASK_UI } from './tasks';
import { promptOf } from './tasks/said';
import { useHint } from './tasks/texts';
import type { Sitting } from './useSitting';
import { WaitingNote } from './WaitingNote';

/** What a key press would set off by itself. */
const controlOf = ({ target }: KeyboardEvent) =>
  target instanceof Element ? target.closest('button, summary, input, [role=slider]') : null;

/** One trial: hear each from the same place on, then answer. No way back. */
export function TrialPage({
  view,
  clips,
  fetchBytes,
  note,
  waiting,
  onAnswer,
  onPractised,
  onLevelChanged,
}: {
  view: ListenerView;
  clips: readonly { word: string; url: string; note?: string }[];
  fetchBytes: (url: string) => Promise<ArrayBuffer>;
  note: ReactNode;
  waiting: Sitting['waiting'];
  onAnswer: (answer: Answering) => void;
  onPractised: () => Promise<void>;
  onLevelChanged: () => Promise<void>;
}) {
  const t = useTranslations('listening');
  const sayHint = useHint();
  const practice = view.phase === 'practice';
  const { part } = view;
  const { Body, Keys } = TASK_UI[part.task];
  const current = usePlayer(
    clips.map(({ url }) => url),
    fetchBytes,
    [],
    view.resetSound,
  );
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [given, setGiven] = useState(false);
  const [remark, setRemark] = useState('');
  const [keysShown, setKeysShown] = useState(false);
  const beganMs = useRef<number | null>(null);
  const ready = current?.state.ready ?? false;
  useEffect(() => {
    if (ready) beganMs.current ??= performance.now();
  }, [ready]);
  const heard = current?.state.heardS.map((seconds) => seconds >= view.leastHeardS) ?? [];
  const allHeard = heard.length > 0 && heard.every(Boolean);
  const confirm = useCallback(() => {
    if (!current || !answer || !allHeard || given) return;
    current.player.pause();
    setGiven(true);
    if (practice) {
      void onPractised().finally(() => setGiven(false));
      return;
    }
    onAnswer({
      position: view.position,
      answer,
      key: crypto.randomUUID(),
      heardS: [...current.state.heardS],
      switches: current.state.switches,
      durationS: (performance.now() - (beganMs.current ?? performance.now())) / 1000,
      remark: remark.trim() || undefined,
    } as Answering);
  }, [current, answer, remark, allHeard, given, practice, onPractised, onAnswer, view.position]);

  useShortcuts({
    ...Object.fromEntries(
      clips.map((_, slot) => [String(slot + 1), () => void current?.player.select(slot)]),
    ),
    Space: (event) => {
      if (!current || controlOf(event)) return;
      event.preventDefault();
      if (current.state.playing) current.player.pause();
      else void current.player.play();
    },
    Enter: (event) => {
      const control = controlOf(event);
      if (!control || control.role === 'slider') confirm();
    },
    '?': () => setKeysShown((shown) => !shown),
  });

  if (!current || !ready) return <Loading state={current?.state ?? null} />;
  const { player, state } = current;
  const done = part.task === 'pair' ? t('trial.donePair') : t('trial.doneTrial');
  return (
    <main className={styles.page}>
      <TrialHead view={view} place={practice ? t('trial.practice') : placeOf(t, view)} />
      <h1 className={styles.heading}>
        {practice ? t('trial.tryOnce') : part.learning ? t('trial.learn') : promptOf(t, part)}
      </h1>
      <p className={styles.lead}>
        {practice ? t(`tasks.${part.task}.practice`) : t('trial.judge', { title: view.title })}
      </p>
      <Body
        part={part}
        clips={clips}
        player={player}
        state={state}
        heard={heard}
        open={allHeard && !given}
        answer={answer}
        onAnswer={setAnswer}
      />
      <LoopBar
        player={player}
        state={state}
        names={{
          begins: t('loop.begins'),
          ends: t('loop.ends'),
          seconds: (seconds) => t('loop.seconds', { seconds }),
        }}
      />
      {!practice && !part.sighted && <RemarkField value={remark} onChange={setRemark} />}
      {note}
      <WaitingNote kept={waiting} />
      <div className={styles.foot}>
        <div className={styles.keys}>
          {keysShown ? (
            <Keys clips={clips.length} tiesAllowed={part.tiesAllowed} />
          ) : (
            <button className={styles.plain} onClick={() => setKeysShown(true)}>
              <kbd>?</kbd> {t('trial.keys')}
            </button>
          )}
        </div>
        <p className={styles.hint} aria-live="polite">
          {sayHint(
            part,
            clips.map(({ word }) => word),
            heard,
            answer,
          )}
        </p>
        <button className={styles.main} disabled={!answer || !allHeard || given} onClick={confirm}>
          {given
            ? t('trial.keeping')
            : practice
              ? t('trial.begin')
              : part.learning
                ? t('trial.known')
                : done}
        </button>
      </div>
      {!practice && <LevelNote onChanged={onLevelChanged} />}
    </main>
  );
}
