'use client';

import { useEffect } from 'react';
import { useTranslations } from 'use-intl';
import styles from '../listening.module.css';
import { type BodyProps, useKeys } from './body';
import { Slip } from './Slip';

/** Two recordings to learn; nothing is asked. */
export function LearningBody(props: BodyProps) {
  const { clips, player, state, silent, heard, open, answer, onAnswer } = props;
  useEffect(() => {
    if (open && !answer) onAnswer({ learned: true });
  }, [open, answer, onAnswer]);
  return (
    <div className={styles.pair}>
      {clips.map(({ word, url }, i) => (
        <div key={url} className={styles.side}>
          <Slip
            word={word}
            index={i}
            heard={heard[i]!}
            player={player}
            state={state}
            silent={silent}
          />
        </div>
      ))}
    </div>
  );
}

/** One recording alone: which of the two learned ones is it? */
export function MemoryBody({
  part,
  clips,
  player,
  state,
  silent,
  heard,
  open,
  answer,
  onAnswer,
}: BodyProps) {
  const t = useTranslations('listening');
  const chosen = answer && 'slot' in answer ? answer.slot : null;
  useKeys({
    ArrowLeft: () => open && onAnswer({ slot: 0 }),
    ArrowRight: () => open && onAnswer({ slot: 1 }),
  });
  return (
    <>
      <div className={styles.single}>
        <Slip
          word={clips[0]!.word}
          index={0}
          heard={heard[0]!}
          player={player}
          state={state}
          silent={silent}
        />
      </div>
      <div className={styles.pair}>
        {part.learned.map((word, i) => (
          <button
            key={word}
            className={styles.choose}
            aria-pressed={chosen === i}
            disabled={!open}
            onClick={() => onAnswer({ slot: i })}
          >
            {chosen === i ? '✓ ' : ''}
            {t('choose.memory', { word })}
          </button>
        ))}
      </div>
    </>
  );
}
