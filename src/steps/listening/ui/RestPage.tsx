import { useTranslations } from 'use-intl';
import styles from './listening.module.css';

/** After a quarter of an hour ears are tired. */
export function RestPage({ onRested }: { onRested: () => void }) {
  const t = useTranslations('listening');
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{t('brand')}</p>
      <h1 className={styles.heading}>{t('rest.heading')}</h1>
      <p className={styles.lead}>{t('rest.lead')}</p>
      <div className={styles.foot}>
        <button className={styles.main} onClick={onRested}>
          {t('rest.goOn')}
        </button>
      </div>
    </main>
  );
}
