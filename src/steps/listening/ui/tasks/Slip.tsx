'use client';

import { useTranslations } from 'use-intl';
import styles from '../listening.module.css';
import type { BodyProps } from './body';

/** A paper slip with its word: a tap lets it be heard, another pauses. */
export function Slip({
  word,
  note,
  index,
  heard,
  player,
  state,
  silent,
  meant = false,
}: {
  word: string;
  /** What it costs, where names are in view; these are longer than words. */
  note?: string;
  index: number;
  heard: boolean;
  /** Shown as the one that was meant, once that is told. */
  meant?: boolean;
} & Pick<BodyProps, 'player' | 'state' | 'silent'>) {
  const t = useTranslations('listening');
  if (silent) {
    return (
      <div className={styles.slip}>
        <span className={styles.word}>{word}</span>
      </div>
    );
  }
  const sounding = state.playing && state.selected === index;
  return (
    <button
      className={styles.slip}
      aria-pressed={sounding}
      aria-label={t('slip.hear', { word })}
      data-heard={heard || undefined}
      data-meant={meant || undefined}
      onClick={() => (sounding ? player.pause() : void player.select(index))}
    >
      <span className={note === undefined ? styles.word : styles.name}>{word}</span>
      {note !== undefined && <span className={styles.price}>{note}</span>}
      <span className={styles.hint}>
        {sounding ? t('slip.sounding') : heard ? t('slip.heard') : t('slip.tap')}
      </span>
    </button>
  );
}
