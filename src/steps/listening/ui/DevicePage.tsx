'use client';

import { type ReactNode, useState } from 'react';
import { useTranslations } from 'use-intl';
import styles from './listening.module.css';

/** A seat that was begun on another device: to go on with it here is counted, and the level is set anew. */
export function DevicePage({ note, onGoOn }: { note: ReactNode; onGoOn: () => Promise<void> }) {
  const t = useTranslations('listening');
  const [busy, setBusy] = useState(false);
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{t('brand')}</p>
      <h1 className={styles.heading}>{t('device.heading')}</h1>
      <p className={styles.lead}>{t('device.lead')}</p>
      <p className={styles.prose}>{t('device.notYou')}</p>
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
          {t('device.goOn')}
        </button>
      </div>
    </main>
  );
}
