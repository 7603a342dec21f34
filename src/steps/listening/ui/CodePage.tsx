'use client';

import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { useTranslations } from 'use-intl';
import { request } from '@/ui/request';
import { shortCode } from '../schema';
import { failureText } from './failure-text';
import { LanguageChoice } from './LanguageChoice';
import styles from './listening.module.css';
import { LISTENING } from '@/steps/listening/endpoints';

/** For whoever reads the code from a screen instead of following a link. */
export function CodePage() {
  const t = useTranslations('listening');
  const router = useRouter();
  const [failure, setFailure] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const checked = shortCode.safeParse({ code: new FormData(event.currentTarget).get('code') });
    if (!checked.success) {
      setFailure(t('refused.codeShape'));
      return;
    }
    setBusy(true);
    try {
      const { token } = await request(LISTENING.byCode, {}, checked.data);
      router.push(`/listen/${token}`);
    } catch (error) {
      setFailure(failureText(t, error));
      setBusy(false);
    }
  };
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{t('brand')}</p>
      <h1 className={styles.heading}>{t('code.heading')}</h1>
      <p className={styles.lead}>{t('code.lead')}</p>
      <form className={styles.form} onSubmit={(event) => void submit(event)}>
        <label className={styles.field}>
          {t('code.label')}
          <input
            name="code"
            required
            maxLength={8}
            autoComplete="off"
            autoCapitalize="characters"
            spellCheck={false}
          />
        </label>
        {failure && (
          <p role="alert" className={styles.failure}>
            {failure}
          </p>
        )}
        <button className={styles.main} disabled={busy}>
          {t('code.join')}
        </button>
      </form>
      <LanguageChoice />
    </main>
  );
}
