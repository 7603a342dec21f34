'use client';

import Link from 'next/link';
import { useState } from 'react';
import { MADE_SOUNDS } from '@/core/ears/made-sounds';
import { MOST_TRIALS, TEST_TRIALS } from '@/core/ears/session';
import { SKILLS, skillOf, toldSkill, usualChoices } from '@/core/ears/skills';
import styles from '@/steps/listening/ui/listening.module.css';
import type { EarSound, SessionDraft } from '../../schema';
import { useHydrated } from '@/ui/useHydrated';
import type { useTraining } from './useTraining';

const MADE = Object.entries(MADE_SOUNDS).map(([sound, title]) => ({
  title,
  sound: { kind: 'made', sound } as EarSound,
}));
const MINUTES = 8;

/** Chooses what to train and on what; shows what came of it so far. */
export function BeginPage({
  trained: { view, failure, begin, share },
  own,
}: {
  trained: ReturnType<typeof useTraining>;
  /** Whether an engineer trains, who has the studio's clips. */
  own: boolean;
}) {
  const [skillId, setSkill] = useState(SKILLS[0]!.id);
  const skill = skillOf(skillId)!;
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const choices = { ...usualChoices(skill), ...chosen };
  const sounds = [...(skill.clips === 1 ? MADE : []), ...view.sounds];
  const [soundAt, setSound] = useState(0);
  const [otherId, setOther] = useState('');
  const [busy, setBusy] = useState(false);
  const hydrated = useHydrated();
  const picked = (sounds[soundAt] ?? sounds[0])?.sound ?? null;
  const others =
    picked?.kind === 'clip'
      ? view.sounds.filter(
          ({ sound }) =>
            sound.kind === 'clip' &&
            sound.clipSetId === picked.clipSetId &&
            sound.chainId !== picked.chainId,
        )
      : [];
  const idOf = ({ sound }: { sound: EarSound }) => (sound.kind === 'clip' ? sound.chainId : '');
  const other = others.find((one) => idOf(one) === otherId) ?? others[0];
  const sound: EarSound | null =
    picked?.kind === 'clip' && skill.clips === 2
      ? { ...picked, otherId: other ? idOf(other) : null }
      : picked;
  const start = async (draft: SessionDraft) => {
    setBusy(true);
    await begin(draft);
    setBusy(false);
  };
  const skills = SKILLS.filter(({ clips }) => own || clips === 1);
  const { past, panel, tests, alias } = view;
  return (
    <main className={styles.page}>
      <p className={styles.brand}>Zeitbank training</p>
      <h1 className={styles.heading}>{alias ? `Train your ears, ${alias}` : 'Train your ears'}</h1>
      <p className={styles.lead}>
        Three short sounds, one of which differs; you are told at once whether you were right, and
        the difference becomes smaller as you are. A session is at most {MOST_TRIALS} trials, about{' '}
        {MINUTES} minutes, and can be ended at any time.
      </p>
      <p className={styles.caution}>
        Begin with the volume low and turn up until it is comfortable. Loud listening harms hearing,
        and the harm stays. If your ears ring or tire, stop for today.
      </p>
      {failure && (
        <p className={styles.failure} role="alert">
          {failure}
        </p>
      )}
      <form
        className={styles.form}
        onSubmit={(event) => {
          event.preventDefault();
          if (sound) void start({ skill: skillId, choices, amount: null, sound });
        }}
      >
        <fieldset className={styles.whole} disabled={!hydrated}>
          <label className={styles.field}>
            What to train
            <select
              value={skillId}
              onChange={({ target }) => {
                setSkill(target.value);
                setChosen({});
                setSound(0);
              }}
            >
              {skills.map(({ id, label }) => (
                <option key={id} value={id}>
                  {label}
                </option>
              ))}
            </select>
          </label>
          {Object.entries(skill.choices).map(([key, { label, words }]) => (
            <label key={key} className={styles.field}>
              {label}
              <select
                value={choices[key]}
                onChange={({ target }) => setChosen({ ...chosen, [key]: target.value })}
              >
                {Object.entries(words).map(([value, text]) => (
                  <option key={value} value={value}>
                    {text}
                  </option>
                ))}
              </select>
            </label>
          ))}
          {sounds.length > 0 && (
            <label className={styles.field}>
              On
              <select value={soundAt} onChange={({ target }) => setSound(Number(target.value))}>
                {sounds.map(({ title }, i) => (
                  <option key={`${title} ${i}`} value={i}>
                    {title}
                  </option>
                ))}
              </select>
            </label>
          )}
          {skill.clips === 2 &&
            (others.length > 0 ? (
              <label className={styles.field}>
                towards
                <select
                  value={other ? idOf(other) : ''}
                  onChange={({ target }) => setOther(target.value)}
                >
                  {others.map((one) => (
                    <option key={idOf(one)} value={idOf(one)}>
                      {one.title}
                    </option>
                  ))}
                </select>
              </label>
            ) : (
              <p className={styles.hint}>
                This takes clips of two chains; match a passage of a comparison first.
              </p>
            ))}
          <p className={styles.hint}>{skill.hint}</p>
          <button
            className={styles.main}
            disabled={busy || sound === null || (skill.clips === 2 && !other)}
          >
            Begin
          </button>
        </fieldset>
      </form>
      {tests.length > 0 && (
        <section className={styles.own} aria-label="Short tests">
          <h2>Short tests</h2>
          <p>
            {TEST_TRIALS} trials at one size.
            {!own &&
              ' What a test comes to stands beside your answers where the studio reads results; nobody is left out for it.'}
          </p>
          {tests.map((test) => {
            const tested = skillOf(test.skill);
            if (!tested) return null;
            return (
              <p key={test.id}>
                <button
                  className={styles.plain}
                  disabled={busy}
                  onClick={() =>
                    void start({
                      skill: test.skill,
                      choices: test.choices,
                      amount: test.amount,
                      sound:
                        sound?.kind === 'clip'
                          ? { ...sound, otherId: null }
                          : (sound ?? MADE[0]!.sound),
                    })
                  }
                >
                  <u>
                    {tested.words(test.amount)}: {toldSkill(tested, test.choices)}
                  </u>
                </button>
              </p>
            );
          })}
        </section>
      )}
      {past.length > 0 && (
        <section className={styles.own} aria-label="So far">
          <h2>So far</h2>
          {past.map(({ id, at, title, on, says }) => (
            <p key={id}>
              <time dateTime={at}>{at.slice(0, 10)}</time>, {title}, on {on}. {says}
            </p>
          ))}
          {panel.map(({ title, says }) => (
            <p key={title}>
              {title}: {says}
            </p>
          ))}
        </section>
      )}
      {own && (
        <p>
          <Link href="/training">Sessions, progress, and training for the panel</Link>
        </p>
      )}
      {share && (
        <label className={styles.consent}>
          <input
            type="checkbox"
            checked={view.shares}
            onChange={({ target }) => void share(target.checked)}
          />
          The studio may see what I hear in training, and count it among the panel’s; I can take
          that back.
        </label>
      )}
    </main>
  );
}
