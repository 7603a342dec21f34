'use client';

import { useCallback } from 'react';
import { useTranslations } from 'use-intl';
import styles from '../listening.module.css';
import { type BodyProps, useKeys } from './body';
import { Slip } from './Slip';

/** Tasks that say something under each slip. */
type Choosing = 'pair' | 'triangle' | 'two-interval' | 'duo-trio';

const SIDES = ['first', 'second'] as const;

/**
 * Two or three slips, one of which is meant: pairs, twins, the odd one out.
 * @param from first slot that may be meant; those before are only compared with
 * @param liking whether a side is chosen, by taste; else a slot is meant
 */
export function ChoiceBody({
  from = 0,
  liking = false,
  ...props
}: BodyProps & { from?: number; liking?: boolean }) {
  const t = useTranslations('listening');
  const { part, clips, player, state, silent, heard, open, answer, onAnswer } = props;
  const ties = liking && part.tiesAllowed;
  let chosen: number | null = null;
  if (answer && 'slot' in answer) chosen = answer.slot;
  if (answer && 'choice' in answer && answer.choice !== 'tie')
    chosen = SIDES.indexOf(answer.choice);
  const tied = answer !== null && 'choice' in answer && answer.choice === 'tie';
  const choose = useCallback(
    (slot: number) => onAnswer(liking ? { choice: SIDES[slot]! } : { slot }),
    [onAnswer, liking],
  );
  const last = clips.length - 1;
  useKeys({
    ArrowLeft: () => open && choose(Math.max(from, (chosen ?? from + 1) - 1)),
    ArrowRight: () => open && choose(Math.min(last, (chosen ?? last - 1) + 1)),
    ArrowDown: () => open && ties && onAnswer({ choice: 'tie' }),
  });
  return (
    <>
      <div className={clips.length === 2 ? styles.pair : styles.three}>
        {clips.map(({ word, note, url }, i) => (
          <div key={url} className={styles.side}>
            <Slip
              word={word}
              note={note}
              index={i}
              heard={heard[i]!}
              player={player}
              state={state}
              silent={silent}
            />
            {i >= from && (
              <button
                className={styles.choose}
                aria-pressed={chosen === i}
                disabled={!open}
                onClick={() => choose(i)}
              >
                {chosen === i ? '✓ ' : ''}
                {t(`choose.${part.task as Choosing}`, { word })}
              </button>
            )}
          </div>
        ))}
      </div>
      {ties && (
        <button
          className={styles.tie}
          aria-pressed={tied}
          disabled={!open}
          onClick={() => onAnswer({ choice: 'tie' })}
        >
          {tied ? '✓ ' : ''}
          {t('choose.tie')}
        </button>
      )}
    </>
  );
}
