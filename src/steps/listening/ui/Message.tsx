'use client';

import type { ReactNode } from 'react';
import { useTranslations } from 'use-intl';
import { LanguageChoice } from './LanguageChoice';
import styles from './listening.module.css';

/** A page that only says something. */
export function Message({
  title,
  brand,
  children,
}: {
  title: string;
  /** Other than that of a sitting: pages that ship in one language. */
  brand?: string;
  children: ReactNode;
}) {
  const t = useTranslations('listening');
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{brand ?? t('brand')}</p>
      <h1 className={styles.heading}>{title}</h1>
      <div className={styles.prose}>{children}</div>
      {brand === undefined && <LanguageChoice />}
    </main>
  );
}

/** For a link that is not, or no longer, one. */
export function NoSitting() {
  const t = useTranslations('listening');
  return <Message title={t('noSitting.heading')}>{t('noSitting.text')}</Message>;
}
