'use client';

import { type FormEvent, type ReactNode, useState } from 'react';
import { useTranslations } from 'use-intl';
import { TOLD_APART } from '@/core/design/told-apart';
import { type Joining, joining } from '../schema';
import type { ListenerView } from '../views';
import { LanguageChoice } from './LanguageChoice';
import styles from './listening.module.css';

const PLAYBACK = [
  'headphones',
  'earbuds',
  'loudspeakers',
] as const satisfies readonly Joining['playback'][];

/** A place in a list that a form sends as text; null for none. */
const numberIn = (value: FormDataEntryValue | null) =>
  typeof value === 'string' && value !== '' ? Number(value) : null;

/** Who comes, on what, and with consent; what is promised stands above. */
export function JoinPage({
  view,
  note,
  onJoin,
}: {
  view: ListenerView;
  note: ReactNode;
  onJoin: (joining: Joining) => Promise<void>;
}) {
  const t = useTranslations('listening');
  const [busy, setBusy] = useState(false);
  const together = view.room === 'together';
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    setBusy(true);
    await onJoin(
      joining.parse({
        alias: form.get('alias'),
        playback: form.get('playback'),
        consent: form.get('consent') === 'on',
        guess: view.guessAmong && {
          favourite: numberIn(form.get('favourite')),
          toldApart: form.get('toldApart') || null,
        },
      }),
    );
    setBusy(false);
  };
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{t('brand')}</p>
      <h1 className={styles.heading}>{t('join.heading')}</h1>
      <p className={styles.lead}>
        {[
          t('join.lead', {
            title: view.title,
            trials: view.trials,
            parts: view.part.of,
            minutes: Math.ceil(view.minutesLeft),
          }),
          t(
            `join.told.${view.reveal !== 'never' && view.purpose === 'self-test' ? 'self-test' : view.reveal}`,
          ),
          view.sighted > 0 && t('join.sighted', { pairs: view.sighted }),
          view.simulated && t('join.simulated'),
        ]
          .filter(Boolean)
          .join(' ')}
      </p>
      {view.purpose === 'rehearsal' && <p className={styles.caution}>{t('join.rehearsal')}</p>}
      <form className={styles.form} onSubmit={(event) => void submit(event)}>
        <label className={styles.field}>
          {t('join.name')}
          <input
            name="alias"
            required
            maxLength={40}
            defaultValue={view.invitedAs ?? undefined}
            autoComplete="nickname"
            placeholder={t('join.anyWord')}
          />
        </label>
        {together ? (
          <>
            <p className={styles.lead}>{t('join.silent')}</p>
            <input type="hidden" name="playback" value="loudspeakers" />
          </>
        ) : (
          <fieldset className={styles.choices}>
            <legend>{t('join.playback.legend')}</legend>
            {PLAYBACK.map((value) => (
              <label key={value}>
                <input
                  type="radio"
                  name="playback"
                  value={value}
                  defaultChecked={value === 'headphones'}
                  required
                />
                {t(`join.playback.${value}`)}
              </label>
            ))}
          </fieldset>
        )}
        {view.guessAmong && (
          <fieldset className={styles.guess}>
            <legend>{t('join.expect')}</legend>
            <label className={styles.field}>
              {t('join.favourite')}
              <select name="favourite" defaultValue="">
                <option value="">{t('join.noGuess')}</option>
                {view.guessAmong.map((name, i) => (
                  <option key={i} value={i}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
            <label className={styles.field}>
              {t('join.apart.legend')}
              <select name="toldApart" defaultValue="">
                <option value="">{t('join.noGuess')}</option>
                {TOLD_APART.map((word) => (
                  <option key={word} value={word}>
                    {t(`join.apart.${word}`)}
                  </option>
                ))}
              </select>
            </label>
            <p className={styles.hint}>{t('join.guessKept')}</p>
          </fieldset>
        )}
        <label className={styles.consent}>
          <input type="checkbox" name="consent" required />
          <span>
            {t('join.consent', {
              guess: view.guessAmong ? 'yes' : 'no',
              invited: view.invitedAs === null ? 'no' : 'yes',
            })}
          </span>
        </label>
        {note}
        <button className={styles.main} disabled={busy}>
          {t('join.begin')}
        </button>
      </form>
      <details className={styles.seal}>
        <summary>{t('join.sealed.heading')}</summary>
        {t('join.sealed.before')}
        <code>{view.seal}</code>
        {t('join.sealed.after')}
      </details>
      <LanguageChoice />
    </main>
  );
}
