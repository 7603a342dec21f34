'use client';

import { useState } from 'react';
import { NextLink } from '@/ui/NextLink';
import { MADE_SOUNDS, type MadeSound } from '@/core/ears/made-sounds';
import { MOST_TRIALS, TEST_TRIALS } from '@/core/ears/session';
import { SKILLS, skillOf, usualChoices } from '@/core/ears/skills';
import { LanguageChoice } from '@/steps/listening/ui/LanguageChoice';
import styles from '@/steps/listening/ui/listening.module.css';
import { besideOf, type EarSound, type SessionDraft, type Training } from '../../schema';
import { useSaid } from './said';
import type { useTraining } from './useTraining';

const MADE = Object.keys(MADE_SOUNDS) as MadeSound[];
const MINUTES = 8;

type Offered = Training['sounds'][number];

const isPair = (sound: EarSound): boolean => sound.kind === 'given' && sound.pair;

/** A sound as a session hears it: by itself, or on its way to the other of two chains. */
function heardAs(sound: EarSound, two: boolean, otherId: string | null): EarSound {
  if (sound.kind === 'clip') return { ...sound, otherId: two ? otherId : null };
  return sound.kind === 'given' ? { ...sound, pair: two } : sound;
}

/** Chooses what to train and on what; shows what came of it so far. */
export function BeginPage({
  trained: { view, failure, begin, share },
  own,
}: {
  trained: ReturnType<typeof useTraining>;
  /** Whether an engineer trains, who has the studio's clips. */
  own: boolean;
}) {
  const { t, said } = useSaid();
  const [skillId, setSkill] = useState(SKILLS[0]!.id);
  const skill = skillOf(skillId)!;
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const choices = { ...usualChoices(skill), ...chosen };
  const made = MADE.map((sound): Offered => ({
    title: said.made(sound),
    sound: { kind: 'made', sound },
  }));
  // Of the panel's sounds a pair serves for one clip as well; of the studio's clips two make a pair.
  const sounds =
    skill.clips === 1
      ? [...made, ...view.sounds]
      : view.sounds.filter(({ sound }) => sound.kind === 'clip' || isPair(sound));
  const [soundAt, setSound] = useState(0);
  const [otherId, setOther] = useState('');
  const [busy, setBusy] = useState(false);
  const picked = (sounds[soundAt] ?? sounds[0])?.sound ?? null;
  const others = besideOf(picked, view.sounds);
  const other = others.find(({ chainId }) => chainId === otherId) ?? others[0];
  const two = skill.clips === 2;
  const sound = picked && heardAs(picked, two, other?.chainId ?? null);
  const lacks = two && (own ? !other : sound === null);
  const start = async (draft: SessionDraft) => {
    setBusy(true);
    await begin(draft);
    setBusy(false);
  };
  const { past, panel, tests, alias } = view;
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{t('brand')}</p>
      <h1 className={styles.heading}>
        {alias ? t('begin.headingFor', { name: alias }) : t('begin.heading')}
      </h1>
      <p className={styles.lead}>{t('begin.lead', { trials: MOST_TRIALS, minutes: MINUTES })}</p>
      <p className={styles.caution}>{t('begin.caution')}</p>
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
        <label className={styles.field}>
          {t('begin.what')}
          <select
            value={skillId}
            onChange={({ target }) => {
              setSkill(target.value);
              setChosen({});
              setSound(0);
            }}
          >
            {SKILLS.map((one) => (
              <option key={one.id} value={one.id}>
                {said.label(one)}
              </option>
            ))}
          </select>
        </label>
        {Object.entries(skill.choices).map(([key, { words }]) => (
          <label key={key} className={styles.field}>
            {said.choice(skill, key)}
            <select
              value={choices[key]}
              onChange={({ target }) => setChosen({ ...chosen, [key]: target.value })}
            >
              {Object.keys(words).map((value) => (
                <option key={value} value={value}>
                  {said.way(skill, key, value)}
                </option>
              ))}
            </select>
          </label>
        ))}
        {sounds.length > 0 && (
          <label className={styles.field}>
            {t('begin.on')}
            <select value={soundAt} onChange={({ target }) => setSound(Number(target.value))}>
              {sounds.map(({ title }, i) => (
                <option key={`${title} ${i}`} value={i}>
                  {title}
                </option>
              ))}
            </select>
          </label>
        )}
        {own && two && others.length > 0 && (
          <label className={styles.field}>
            {t('begin.towards')}
            <select value={other?.chainId ?? ''} onChange={({ target }) => setOther(target.value)}>
              {others.map((one) => (
                <option key={one.chainId} value={one.chainId}>
                  {one.title}
                </option>
              ))}
            </select>
          </label>
        )}
        {lacks && <p className={styles.hint}>{t(own ? 'begin.twoChains' : 'begin.noPair')}</p>}
        <p className={styles.hint}>{said.hint(skill)}</p>
        <button className={styles.main} disabled={busy || sound === null || lacks}>
          {t('begin.start')}
        </button>
      </form>
      {tests.length > 0 && (
        <section className={styles.own} aria-label={t('begin.tests')}>
          <h2>{t('begin.tests')}</h2>
          <p>
            {t('begin.testsLead', { trials: TEST_TRIALS })}
            {!own && ` ${t('begin.testsUse')}`}
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
                      sound: heardAs(picked ?? made[0]!.sound, false, null),
                    })
                  }
                >
                  <u>
                    {t('begin.test', {
                      size: said.size(tested, test.amount),
                      skill: said.skill(tested, test.choices),
                    })}
                  </u>
                </button>
              </p>
            );
          })}
        </section>
      )}
      {past.length > 0 && (
        <section className={styles.own} aria-label={t('begin.soFar')}>
          <h2>{t('begin.soFar')}</h2>
          {past.map((session) => {
            const { id, at, on, made: known } = session;
            const was = skillOf(session.skill);
            return (
              was && (
                <p key={id}>
                  <time dateTime={at}>{at.slice(0, 10)}</time>,{' '}
                  {t('begin.past', {
                    skill: said.skill(was, session.choices),
                    sound: known === null ? on : said.made(known),
                    outcome: said.outcome(was, session.said),
                  })}
                </p>
              )
            );
          })}
          {panel.map((others) => {
            const theirs = skillOf(others.skill);
            return (
              theirs && (
                <p key={others.title}>
                  {t('begin.among', {
                    skill: said.skill(theirs, others.choices),
                    outcome: said.among(theirs, others.people, others.amount),
                  })}
                </p>
              )
            );
          })}
        </section>
      )}
      {own && (
        <p>
          <NextLink href="/training">{t('begin.overview')}</NextLink>
        </p>
      )}
      {share && (
        <label className={styles.consent}>
          <input
            type="checkbox"
            checked={view.shares}
            onChange={({ target }) => void share(target.checked)}
          />
          {t('begin.share')}
        </label>
      )}
      {!own && <LanguageChoice />}
    </main>
  );
}
