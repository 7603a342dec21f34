'use client';

import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { request, RequestError } from '@/ui/request';
import { shortCode } from '../schema';
import styles from './listening.module.css';
import { LISTENING } from '@/steps/listening/endpoints';

/** For whoever reads the code from a screen instead of following a link. */
export function CodePage() {
  const router = useRouter();
  const [failure, setFailure] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const checked = shortCode.safeParse({ code: new FormData(event.currentTarget).get('code') });
    if (!checked.success) {
      setFailure(checked.error.issues[0]!.message);
      return;
    }
    setBusy(true);
    try {
      const { token } = await request(LISTENING.byCode, {}, checked.data);
      router.push(`/listen/${token}`);
    } catch (error) {
      setFailure(error instanceof RequestError ? error.message : 'This did not work; try again.');
      setBusy(false);
    }
  };
  return (
    <main className={styles.page}>
      <p className={styles.brand}>Zeitbank sitting</p>
      <h1 className={styles.heading}>Join with a code</h1>
      <p className={styles.lead}>It stands on the screen in the room, or the engineer tells you.</p>
      <form className={styles.form} onSubmit={(event) => void submit(event)}>
        <label className={styles.field}>
          Code
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
          Join
        </button>
      </form>
    </main>
  );
}
