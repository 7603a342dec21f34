import type { PlayerState } from '@/ui/player/engine';
import styles from './listening.module.css';
import { Message } from './Message';

/** While sound arrives. */
export function Loading({ state }: { state: PlayerState | null }) {
  if (state?.error) {
    return (
      <Message title="The sound did not arrive">
        <p>{state.error}</p>
        <button className={styles.main} onClick={() => window.location.reload()}>
          Try again
        </button>
      </Message>
    );
  }
  const percent = Math.round(100 * (state?.loaded ?? 0));
  return (
    <main className={styles.page}>
      <p className={styles.brand}>Zeitbank sitting</p>
      <p role="status">Recordings are arriving: {percent} %</p>
      <div className={styles.progress}>
        <div style={{ width: `${percent}%` }} />
      </div>
    </main>
  );
}
