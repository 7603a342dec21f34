'use client';

import { type FormEvent, type ReactNode, useState } from 'react';
import { TOLD_APART } from '@/core/design/told-apart';
import { type Joining, joining } from '../schema';
import type { ListenerView } from '../views';
import styles from './listening.module.css';

const PLAYBACK: Record<Joining['playback'], string> = {
  headphones: 'Headphones',
  earbuds: 'Earbuds',
  loudspeakers: 'Loudspeakers',
};

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
      <p className={styles.brand}>Zeitbank sitting</p>
      <h1 className={styles.heading}>Listen, and say what you hear</h1>
      <p className={styles.lead}>
        {view.title}. {view.trials} {view.trials === 1 ? 'trial' : 'trials'}
        {view.part.of > 1 && ` in ${view.part.of} parts`}, about {Math.ceil(view.minutesLeft)}{' '}
        minutes. Trust your ears; nobody sees single answers before the end.{' '}
        {view.reveal === 'never'
          ? 'Which recording was which is not told afterwards.'
          : view.purpose === 'self-test'
            ? 'After the last answer it is closed, and you see the names and what it came to.'
            : view.reveal === 'after each part'
              ? 'After each part you can see your own answers with the names; please keep them to yourself.'
              : 'Once it is closed you can see your own with the names.'}
        {view.sighted > 0 &&
          ` At the end ${view.sighted === 1 ? 'one of your pairs comes' : `${view.sighted} of your pairs come`} once more with names and prices in view; that counts for nothing but what those are worth.`}
        {view.simulated && ' These recordings are simulated.'}
      </p>
      {view.purpose === 'rehearsal' && (
        <p className={styles.caution}>
          A rehearsal: walk through it as a listener would. Nothing of it is kept.
        </p>
      )}
      <form className={styles.form} onSubmit={(event) => void submit(event)}>
        <label className={styles.field}>
          A name for you
          <input
            name="alias"
            required
            maxLength={40}
            defaultValue={view.invitedAs ?? undefined}
            autoComplete="nickname"
            placeholder="any word will do"
          />
        </label>
        {together ? (
          <>
            <p className={styles.lead}>
              The sound comes from the loudspeakers of the room; this device stays silent, and you
              answer on it.
            </p>
            <input type="hidden" name="playback" value="loudspeakers" />
          </>
        ) : (
          <fieldset className={styles.choices}>
            <legend>You listen on</legend>
            {Object.entries(PLAYBACK).map(([value, text]) => (
              <label key={value}>
                <input
                  type="radio"
                  name="playback"
                  value={value}
                  defaultChecked={value === 'headphones'}
                  required
                />
                {text}
              </label>
            ))}
          </fieldset>
        )}
        {view.guessAmong && (
          <fieldset className={styles.guess}>
            <legend>Before you hear anything: what do you expect?</legend>
            <label className={styles.field}>
              Liked best by all of you
              <select name="favourite" defaultValue="">
                <option value="">no guess</option>
                {view.guessAmong.map((name, i) => (
                  <option key={i} value={i}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
            <label className={styles.field}>
              That they can be told apart
              <select name="toldApart" defaultValue="">
                <option value="">no guess</option>
                {TOLD_APART.map((word) => (
                  <option key={word} value={word}>
                    {word}
                  </option>
                ))}
              </select>
            </label>
            <p className={styles.hint}>
              Kept as you join; which recording is which stays hidden. It counts for nothing but how
              good guesses are.
            </p>
          </fieldset>
        )}
        <label className={styles.consent}>
          <input type="checkbox" name="consent" required />
          <span>
            I take part freely and may stop at any time. The name, what I listen on
            {view.guessAmong && ', my guess'}, my answers with what I remark, and how long I heard
            what are kept with this sitting
            {view.invitedAs === null && ', and nothing else'}.
            {view.invitedAs !== null &&
              ' As this link is mine alone, the sittings and minutes I gave count in my entry of the panel. I can have all of it forgotten; the answers then stay without a name.'}
          </span>
        </label>
        {note}
        <button className={styles.main} disabled={busy}>
          Begin
        </button>
      </form>
      <details className={styles.seal}>
        <summary>The key is sealed</summary>
        Which recording is which was fixed before you came. Its number is
        <code>{view.seal}</code>
        After the sitting anyone can check that nothing was changed.
      </details>
    </main>
  );
}
