'use client';

import { useTranslations } from 'use-intl';
import type { PlayerState } from '@/ui/player/engine';
import styles from './listening.module.css';
import { Message } from './Message';

/** While sound arrives. */
export function Loading({ state, brand }: { state: PlayerState | null; brand?: string }) {
  const t = useTranslations('listening');
  if (state?.error) {
    return (
      <Message title={t('loading.heading')} brand={brand}>
        <p>{t('loading.failed')}</p>
        <button className={styles.main} onClick={() => window.location.reload()}>
          {t('loading.again')}
        </button>
      </Message>
    );
  }
  const percent = Math.round(100 * (state?.loaded ?? 0));
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{brand ?? t('brand')}</p>
      <p role="status">{t('loading.arriving', { percent })}</p>
      <div className={styles.progress}>
        <div style={{ width: `${percent}%` }} />
      </div>
    </main>
  );
}
