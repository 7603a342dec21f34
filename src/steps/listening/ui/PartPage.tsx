'use client';

import { useState } from 'react';
import type { ListenerView } from '../views';
import styles from './listening.module.css';

/** What the coming part asks; a good place to rest. */
export function PartPage({
  view,
  note,
  onBegin,
}: {
  view: ListenerView;
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
        kept. Rest your ears as long as you like; your place stays.
      </p>
      <p className={styles.prose}>You will be asked: {part.prompt}</p>
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
