'use client';

import { useEffect, useRef, useState } from 'react';
import { useTranslations } from 'use-intl';
import type { ListenerView } from '../views';
import { ClipCache } from './clip-cache';
import { DevicePage } from './DevicePage';
import { JoinPage } from './JoinPage';
import { LevelPage } from './LevelPage';
import styles from './listening.module.css';
import { Message } from './Message';
import { wordOf } from './tasks/said';
import { PartPage } from './PartPage';
import { OwnAnswers, Proofs, Receipt } from './Receipt';
import { RestPage } from './RestPage';
import { RoomTrialPage } from './RoomTrialPage';
import { TrialPage } from './TrialPage';
import { useSitting } from './useSitting';

/** How often a phone in a room asks where the room is. */
const ROOM_EVERY_MS = 1500;
const REST_AFTER_MS = 15 * 60 * 1000;

/** Whether a quarter of an hour of trials has passed since the last rest. */
function useRest(phase: ListenerView['phase'], answered: number) {
  const restedMs = useRef<number | null>(null);
  const [due, setDue] = useState(false);
  useEffect(() => {
    // Asked at the border of two trials only, so that it cuts no listening short.
    const timer = setTimeout(() => {
      if (phase !== 'trial') restedMs.current = null;
      else restedMs.current ??= Date.now();
      if (restedMs.current !== null && Date.now() - restedMs.current > REST_AFTER_MS) setDue(true);
    }, 0);
    return () => clearTimeout(timer);
  }, [phase, answered]);
  const rested = () => {
    restedMs.current = Date.now();
    setDue(false);
  };
  return { due, rested };
}

const ROOM_WAITS: Record<ListenerView['roomStage'], 'joining' | 'level' | 'practised'> = {
  joining: 'joining',
  level: 'level',
  practice: 'practised',
};

/** The whole of a listener's side, one page after the other. */
export function ListeningApp({ token, initial }: { token: string; initial: ListenerView }) {
  const t = useTranslations('listening');
  const sitting = useSitting(token, initial);
  const [cache] = useState(() => new ClipCache());
  const { view, failure } = sitting;
  const urlOf = (address: string) => `/api/listen/${token}/clip/${address}`;
  const together = view.room === 'together';
  const coming = view.comingAddresses.map(urlOf).join(' ');
  const present = together ? '' : view.clips.map(({ address }) => urlOf(address)).join(' ');
  const { refresh } = sitting;
  const seated = together && view.alias !== null;
  useEffect(() => {
    if (!seated) return;
    const timer = setInterval(() => void refresh(), ROOM_EVERY_MS);
    return () => clearInterval(timer);
  }, [seated, refresh]);
  useEffect(() => {
    const next = coming.split(' ').filter((url) => url !== '');
    cache.keepOnly([...present.split(' '), ...next]);
    // After the present clips have arrived, so that they do not wait.
    void Promise.allSettled(present.split(' ').filter(Boolean).map(cache.fetch)).then(() => {
      for (const url of next) void cache.fetch(url).catch(() => undefined);
    });
  }, [cache, coming, present]);
  const rest = useRest(view.phase, view.answered);
  const clips = view.clips.map(({ word, note, address }) => ({
    word: wordOf(t, word),
    note,
    url: urlOf(address),
  }));
  const told = view.partsTold > 0 && <OwnAnswers key={view.partsTold} token={token} />;
  const failed = failure && (
    <p role="alert" className={styles.failure}>
      {failure}
    </p>
  );
  if (sitting.away) {
    return (
      <Message title={t('away.heading')}>
        {t('away.text', { waiting: sitting.waiting ? 'yes' : 'no' })}
      </Message>
    );
  }
  switch (view.phase) {
    case 'join':
      return <JoinPage view={view} note={failed} onJoin={sitting.join} />;
    case 'device':
      return <DevicePage note={failed} onGoOn={sitting.addDevice} />;
    case 'level':
      return (
        <LevelPage
          clip={clips[0]!}
          fetchBytes={cache.fetch}
          note={failed}
          onDone={() => sitting.finishStage({ stage: 'level' })}
        />
      );
    case 'part':
      return (
        <PartPage
          view={view}
          told={told}
          note={failed}
          onBegin={() => sitting.finishStage({ stage: 'part', part: view.part.number })}
        />
      );
    case 'practice':
    case 'trial':
      if (together) {
        return (
          <RoomTrialPage
            key={`${view.phase} ${view.position}`}
            view={view}
            note={failed}
            waiting={sitting.waiting}
            onAnswer={sitting.answer}
            onPractised={() => sitting.finishStage({ stage: 'practice' })}
          />
        );
      }
      if (rest.due) return <RestPage onRested={rest.rested} />;
      return (
        <TrialPage
          key={`${view.phase} ${view.position}`}
          view={view}
          clips={clips}
          fetchBytes={cache.fetch}
          note={failed}
          waiting={sitting.waiting}
          onAnswer={sitting.answer}
          onPractised={() => sitting.finishStage({ stage: 'practice' })}
          onLevelChanged={() => sitting.finishStage({ stage: 'level-changed' })}
        />
      );
    case 'waiting':
      return (
        <Message
          title={
            view.position === 0 ? t('room.welcome', { alias: view.alias ?? '' }) : t('room.kept')
          }
        >
          {view.position === 0 ? t(`room.${ROOM_WAITS[view.roomStage]}`) : t('room.wait')}
          {told}
        </Message>
      );
    case 'finished':
      return <Receipt view={view} token={token} />;
    case 'closed':
      return (
        <Message title={t('closed.heading')}>
          {view.alias === null
            ? t('closed.nobody')
            : t('closed.thanks', { alias: view.alias, answers: view.answered })}
          <Proofs view={view} token={token} />
        </Message>
      );
    case 'full':
      return <Message title={t('full.heading')}>{t('full.text')}</Message>;
  }
}
