'use client';

import { type ReactNode, useMemo, useState } from 'react';
import { useTranslations } from 'use-intl';
import type { Answer } from '@/core/tasks/task';
import type { Answering } from '../schema';
import type { ListenerView } from '../views';
import styles from './listening.module.css';
import { RemarkField } from './RemarkField';
import { TASK_UI } from './tasks';
import { promptOf, wordOf } from './tasks/said';
import { useHint } from './tasks/texts';
import { placeOf, TrialHead } from './TrialHead';
import type { Sitting } from './useSitting';
import { WaitingNote } from './WaitingNote';

/** A trial in a room: the sound comes from the loudspeakers, the answer is given here. */
export function RoomTrialPage({
  view,
  note,
  waiting,
  onAnswer,
  onPractised,
}: {
  view: ListenerView;
  note: ReactNode;
  waiting: Sitting['waiting'];
  onAnswer: (answer: Answering) => void;
  onPractised: () => Promise<void>;
}) {
  const t = useTranslations('listening');
  const sayHint = useHint();
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [given, setGiven] = useState(false);
  /** The slip that was tapped last; a tap on the line places it. */
  const [selected, setSelected] = useState(-1);
  const [remark, setRemark] = useState('');
  const { part, roomHeard } = view;
  const practice = view.phase === 'practice';
  const { Body } = TASK_UI[part.task];
  const clips = view.clips.map(({ word }) => ({ word: wordOf(t, word), url: word }));
  const player = useMemo(
    () => ({
      pause: () => undefined,
      select: (index: number) => {
        setSelected(index);
        return Promise.resolve();
      },
    }),
    [],
  );
  const open = roomHeard && !given;
  const confirm = () => {
    if (!answer || !open) return;
    setGiven(true);
    if (practice) {
      void onPractised();
      return;
    }
    onAnswer({
      position: view.position,
      answer,
      key: crypto.randomUUID(),
      heardS: clips.map(() => 0),
      switches: 0,
      durationS: 0,
      remark: remark.trim() || undefined,
    } as Answering);
  };
  return (
    <main className={styles.page}>
      <TrialHead view={view} place={practice ? t('room.practice') : placeOf(t, view)} />
      <h1 className={styles.heading}>{part.learning ? t('trial.learn') : promptOf(t, part)}</h1>
      <p className={styles.lead}>
        {practice ? t('room.practiceLead') : t('trial.judge', { title: view.title })}
      </p>
      <Body
        part={part}
        clips={clips}
        player={player}
        state={{ playing: false, selected }}
        silent
        heard={clips.map(() => true)}
        open={open}
        answer={answer}
        onAnswer={setAnswer}
      />
      {!practice && <RemarkField value={remark} onChange={setRemark} />}
      {note}
      <WaitingNote kept={waiting} />
      <div className={styles.foot}>
        <p className={styles.hint} aria-live="polite">
          {roomHeard
            ? sayHint(
                part,
                clips.map(({ word }) => word),
                clips.map(() => true),
                answer,
              )
            : t('room.listenFirst')}
        </p>
        <button className={styles.main} disabled={!answer || !open} onClick={confirm}>
          {given ? t('trial.keeping') : part.learning ? t('trial.known') : t('trial.doneTrial')}
        </button>
      </div>
    </main>
  );
}
