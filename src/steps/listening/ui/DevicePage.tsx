'use client';

import { type ReactNode, useState } from 'react';
import styles from './listening.module.css';

/** A seat that was begun on another device: to go on with it here is counted, and the level is set anew. */
export function DevicePage({ note, onGoOn }: { note: ReactNode; onGoOn: () => Promise<void> }) {
  const [busy, setBusy] = useState(false);
  return (
    <main className={styles.page}>
      <p className={styles.brand}>Zeitbank sitting</p>
      <h1 className={styles.heading}>You began on another device</h1>
      <p className={styles.lead}>
        Go on here, and what you answered there stays. This device sounds another way, so the level
        is set once more. How many devices were used, and when, is shown with the results.
      </p>
      <p className={styles.prose}>
        If it was not you who began, stop here and tell the engineer: somebody else has your link.
      </p>
      {note}
      <div className={styles.foot}>
        <button
          className={styles.main}
          disabled={busy}
          onClick={() => {
            setBusy(true);
            void onGoOn().finally(() => setBusy(false));
          }}
        >
          Go on here
        </button>
      </div>
    </main>
  );
}
