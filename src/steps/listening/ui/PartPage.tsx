'use client';

import { useState } from 'react';
import { useTranslations } from 'use-intl';
import type { ListenerView } from '../views';
import { promptOf } from './tasks/said';
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
  const t = useTranslations('listening');
  const [busy, setBusy] = useState(false);
  const { part } = view;
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{t('brand')}</p>
      <h1 className={styles.heading}>
        {t('part.heading', {
          number: part.number,
          of: part.of,
          name: part.sighted ? t('part.sightedName') : t(`tasks.${part.task}.name`),
        })}
      </h1>
      <p className={styles.lead}>
        {t('part.lead', {
          shows: part.sighted ? t('part.sightedShows') : t(`tasks.${part.task}.shows`),
          trials: part.trials,
          sighted: part.sighted ? 'yes' : 'no',
        })}
      </p>
      {part.sighted && <p className={styles.prose}>{t('part.sighted')}</p>}
      <p className={styles.prose}>{t('part.asked', { prompt: promptOf(t, part) })}</p>
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
          {t('part.begin', { number: part.number })}
        </button>
      </div>
    </main>
  );
}
