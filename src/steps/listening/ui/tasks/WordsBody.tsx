'use client';

import styles from '../listening.module.css';
import type { BodyProps } from './body';
import { Slip } from './Slip';

/** One recording, and the words that fit it; none may fit. */
export function WordsBody({
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
  const ticked = answer && 'words' in answer ? answer.words : [];
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
      <fieldset className={styles.words} disabled={!open}>
        <legend className={styles.hint}>Tick all that fit.</legend>
        {part.words.map((word) => (
          <label key={word}>
            <input
              type="checkbox"
              checked={ticked.includes(word)}
              onChange={({ target }) =>
                onAnswer({
                  words: target.checked
                    ? [...ticked, word]
                    : ticked.filter((other) => other !== word),
                })
              }
            />
            {word}
          </label>
        ))}
        <label className={styles.none}>
          <input
            type="checkbox"
            checked={answer !== null && ticked.length === 0}
            onChange={() => onAnswer({ words: [] })}
          />
          none of these
        </label>
      </fieldset>
    </>
  );
}
