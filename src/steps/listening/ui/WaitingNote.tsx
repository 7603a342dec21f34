import styles from './listening.module.css';
import type { Sitting } from './useSitting';

/** Says that an answer waits for the connection, and where it is meanwhile. */
export function WaitingNote({ kept }: { kept: Sitting['waiting'] }) {
  if (!kept) return null;
  return (
    <p role="status" className={styles.caution}>
      The connection is away. Your answer is kept and is sent as soon as it can be
      {kept === 'in this page only'
        ? '; this browser stores nothing, so leave this page open until then.'
        : '.'}
    </p>
  );
}
