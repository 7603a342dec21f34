'use client';

import { useRouter } from 'next/navigation';
import { useLocale, useTranslations } from 'use-intl';
import { LANGUAGE_COOKIE, LANGUAGES } from '@/platform/language/languages';
import styles from './listening.module.css';

const KEPT_S = 365 * 24 * 3600;

/** The browser's own language comes first; another is remembered here. */
export function LanguageChoice() {
  const t = useTranslations('listening');
  const router = useRouter();
  return (
    <label className={styles.language}>
      {t('language')}
      <select
        value={useLocale()}
        onChange={({ target }) => {
          document.cookie = `${LANGUAGE_COOKIE}=${target.value}; path=/; max-age=${KEPT_S}; samesite=lax`;
          router.refresh();
        }}
      >
        {Object.entries(LANGUAGES).map(([id, name]) => (
          <option key={id} value={id} lang={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
