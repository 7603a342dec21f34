import type { PlayerState, SyncPlayer } from '@/ui/player/engine';
import styles from '../listening.module.css';

/** A paper slip with its word: a tap lets it be heard, another pauses. */
export function Slip({
  word,
  index,
  heard,
  player,
  state,
}: {
  word: string;
  index: number;
  heard: boolean;
  player: SyncPlayer;
  state: PlayerState;
}) {
  const sounding = state.playing && state.selected === index;
  return (
    <button
      className={styles.slip}
      aria-pressed={sounding}
      aria-label={`Hear ${word}`}
      onClick={() => (sounding ? player.pause() : void player.select(index))}
    >
      <span className={styles.word}>{word}</span>
      <span className={styles.hint}>{sounding ? 'sounding' : heard ? 'heard' : 'tap to hear'}</span>
    </button>
  );
}
