'use client';

import { useCallback } from 'react';
import type { TaskId } from '@/core/tasks/task';
import styles from '../listening.module.css';
import { type BodyProps, useKeys } from './body';
import { Slip } from './Slip';

/** What the button under a slip says. */
const CHOOSE: Partial<Record<TaskId, (word: string) => string>> = {
  pair: (word) => `${word} suits better`,
  'two-interval': (word) => `It is ${word}`,
  'duo-trio': (word) => `${word} is the twin`,
  triangle: (word) => `${word} is the odd one`,
};

const SIDES = ['first', 'second'] as const;

/** Two or three slips, one of which is meant: pairs, twins, the odd one out. */
export function ChoiceBody(props: BodyProps) {
  const { part, clips, player, state, silent, heard, open, answer, onAnswer } = props;
  const { task } = part;
  // The first of a duo-trio is only compared with.
  const from = task === 'duo-trio' ? 1 : 0;
  let chosen: number | null = null;
  if (answer && 'slot' in answer) chosen = answer.slot;
  if (answer && 'choice' in answer && answer.choice !== 'tie')
    chosen = SIDES.indexOf(answer.choice);
  const tied = answer !== null && 'choice' in answer && answer.choice === 'tie';
  const choose = useCallback(
    (slot: number) => onAnswer(task === 'pair' ? { choice: SIDES[slot] } : { slot }),
    [onAnswer, task],
  );
  const last = clips.length - 1;
  useKeys(
    useCallback(
      (key) => {
        if (!open) return;
        if (key === 'ArrowLeft') choose(Math.max(from, (chosen ?? from + 1) - 1));
        else if (key === 'ArrowRight') choose(Math.min(last, (chosen ?? last - 1) + 1));
        else if (key === 'ArrowDown' && part.tiesAllowed && task === 'pair') {
          onAnswer({ choice: 'tie' });
        }
      },
      [open, choose, chosen, from, last, onAnswer, part.tiesAllowed, task],
    ),
  );
  return (
    <>
      <div className={clips.length === 2 ? styles.pair : styles.three}>
        {clips.map(({ word, url }, i) => (
          <div key={url} className={styles.side}>
            <Slip
              word={word}
              index={i}
              heard={heard[i]}
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
                {CHOOSE[task]?.(word) ?? word}
              </button>
            )}
          </div>
        ))}
      </div>
      {task === 'pair' && part.tiesAllowed && (
        <button
          className={styles.tie}
          aria-pressed={tied}
          disabled={!open}
          onClick={() => onAnswer({ choice: 'tie' })}
        >
          {tied ? '✓ ' : ''}No preference
        </button>
      )}
    </>
  );
}
