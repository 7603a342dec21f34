'use client';

import { useState } from 'react';
import { useTranslations } from 'use-intl';
import styles from './listening.module.css';

/** The level stays as it was set; who must change it says so, and that is kept. */
export function LevelNote({ onChanged }: { onChanged: () => Promise<void> }) {
  const t = useTranslations('listening');
  const [said, setSaid] = useState(false);
  return (
    <details className={styles.seal}>
      <summary>{t('volume.heading')}</summary>
      {said ? (
        <p role="status">{t('volume.noted')}</p>
      ) : (
        <>
          <p>{t('volume.leave')}</p>
          <button
            className={styles.plain}
            onClick={() => void onChanged().then(() => setSaid(true))}
          >
            <u>{t('volume.changed')}</u>
          </button>
        </>
      )}
    </details>
  );
}
