'use client';

import { useState } from 'react';
import styles from './listening.module.css';

/** The level stays as it was set; who must change it says so, and that is kept. */
export function LevelNote({ onChanged }: { onChanged: () => Promise<void> }) {
  const [said, setSaid] = useState(false);
  return (
    <details className={styles.seal}>
      <summary>The volume</summary>
      {said ? (
        <p role="status">It is noted that the volume was changed here.</p>
      ) : (
        <>
          <p>
            Leave it as you set it: a louder recording is easily taken for a better one. If it hurts
            or is too soft to hear, change it, and say so.
          </p>
          <button
            className={styles.plain}
            onClick={() => void onChanged().then(() => setSaid(true))}
          >
            <u>I have changed the volume</u>
          </button>
        </>
      )}
    </details>
  );
}
