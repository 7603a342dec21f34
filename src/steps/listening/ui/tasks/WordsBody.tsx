'use client';

import { useTranslations } from 'use-intl';
import styles from '../listening.module.css';
import type { BodyProps } from './body';
import { Slip } from './Slip';
import { tickWord } from './said';

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
  const t = useTranslations('listening');
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
        <legend className={styles.hint}>{t('choose.tickAll')}</legend>
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
            {tickWord(t, word)}
          </label>
        ))}
        <label className={styles.none}>
          <input
            type="checkbox"
            checked={answer !== null && ticked.length === 0}
            onChange={() => onAnswer({ words: [] })}
          />
          {t('choose.none')}
        </label>
      </fieldset>
    </>
  );
}
