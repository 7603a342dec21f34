'use client';

import { useState } from 'react';
import type { ListenerView } from '../views';
import styles from './listening.module.css';

/** What the coming part asks; a good place to rest. */
export function PartPage({
  view,
  told,
  note,
  onBegin,
}: {
  view: ListenerView;
  /** Own answers with the names, where they are told by now. */
  told: React.ReactNode;
  note: React.ReactNode;
  onBegin: () => Promise<void>;
}) {
  const [busy, setBusy] = useState(false);
  const { part } = view;
  return (
    <main className={styles.page}>
      <p className={styles.brand}>Zeitbank sitting</p>
      <h1 className={styles.heading}>
        Part {part.number} of {part.of}: {part.name}
      </h1>
      <p className={styles.lead}>
        {part.shows} {part.trials} {part.trials === 1 ? 'trial' : 'trials'}. What came before is
        kept{part.sighted && ' and stays as it is'}. Rest your ears as long as you like; your place
        stays.
      </p>
      {part.sighted && (
        <p className={styles.prose}>
          This time the names and prices are in view. Say what you hear now; there is no right
          answer, and nothing of it is mixed into the result.
        </p>
      )}
      <p className={styles.prose}>You will be asked: {part.prompt}</p>
      {told}
      {note}
      <div className={styles.foot}>
        <button
          className={styles.main}
          disabled={busy}
          onClick={() => {
            setBusy(true);
            void onBegin().finally(() => setBusy(false));
          }}
        >
          Begin part {part.number}
        </button>
      </div>
    </main>
  );
}
