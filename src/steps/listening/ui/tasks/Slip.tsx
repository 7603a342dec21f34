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
}: {
  word: string;
  /** What it costs, where names are in view; these are longer than words. */
  note?: string;
  index: number;
  heard: boolean;
} & Pick<BodyProps, 'player' | 'state' | 'silent'>) {
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
      aria-label={`Hear ${word}`}
      data-heard={heard || undefined}
      onClick={() => (sounding ? player.pause() : void player.select(index))}
    >
      <span className={note === undefined ? styles.word : styles.name}>{word}</span>
      {note !== undefined && <span className={styles.price}>{note}</span>}
      <span className={styles.hint}>{sounding ? 'sounding' : heard ? 'heard' : 'tap to hear'}</span>
    </button>
  );
}
