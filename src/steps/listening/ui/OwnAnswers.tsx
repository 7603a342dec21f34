'use client';

import { useFormatter, useTranslations } from 'use-intl';
import { LISTENING } from '@/steps/listening/endpoints';
import { useRead } from '@/ui/useRead';
import type { OwnAnswers as Own, SaidLine } from '../views';
import { failureText, type Say } from './failure-text';
import styles from './listening.module.css';
import { tickWord } from './tasks/said';

/** How far the others like the same. */
function likedAs(agreement: number): 'same' | 'partly' | 'own' | 'reverse' {
  if (agreement > 0.6) return 'same';
  if (agreement > 0.2) return 'partly';
  return agreement > -0.2 ? 'own' : 'reverse';
}

function saidText(t: Say, said: SaidLine): string {
  switch (said.kind) {
    case 'tie':
    case 'rather':
      return t(`own.${said.kind}`, { a: said.a, b: said.b });
    case 'place':
      return t('own.place', { a: said.a, value: said.value.toFixed(0) });
    case 'ticks': {
      const words = said.words.map((word) => tickWord(t, word)).join(', ');
      return t('own.ticks', { a: said.a, words: words || t('own.noWord') });
    }
    case 'told':
      return t('own.told', { a: said.a, b: said.b, right: said.right ? 'yes' : 'no' });
  }
}

function expectedText(
  t: Say,
  about: Own['expected'][number]['about'],
  said: string,
  outcome: Own['expected'][number]['outcome'],
): string {
  const unsettled = outcome === 'open' && said !== 'perhaps';
  const came = t(unsettled ? 'own.outcome.unsettled' : `own.outcome.${outcome}`);
  return about === 'winner'
    ? t('own.winner', { chain: said, outcome: came })
    : t(`own.apart.${said as 'yes' | 'perhaps' | 'no'}`, { outcome: came });
}

function Part({ part, number }: { part: Own['parts'][number]; number: number | null }) {
  const t = useTranslations('listening');
  const format = useFormatter();
  const { prompt, heard, said, right } = part;
  const mean = (value: number) =>
    format.number(value, { minimumFractionDigits: 1, maximumFractionDigits: 1 });
  return (
    <section className={styles.own}>
      <h2>{number === null ? t('own.only', { prompt }) : t('own.part', { number, prompt })}</h2>
      <p className={styles.hint}>{heard}</p>
      {right && (
        <p className={styles.prose}>
          {right.panel
            ? t('own.rightPanel', {
                own: right.own,
                of: right.of,
                mean: mean(right.panel.mean),
                from: right.panel.from,
                to: right.panel.to,
              })
            : t('own.right', { own: right.own, of: right.of })}
        </p>
      )}
      <details className={styles.seal}>
        <summary>{t('own.answers', { count: said.length })}</summary>
        <ul>
          {said.map((line, i) => (
            <li key={i}>{saidText(t, line)}</li>
          ))}
        </ul>
      </details>
    </section>
  );
}

/** What a listener gets back once the sitting is closed. */
export function OwnAnswers({ token }: { token: string }) {
  const t = useTranslations('listening');
  const { data, error } = useRead(LISTENING.own, { token }, { revalidateOnFocus: false });
  if (error) return <p className={styles.failure}>{failureText(t, error)}</p>;
  if (!data) return <p className={styles.hint}>{t('own.opening')}</p>;
  return (
    <>
      {data.findings.map((finding) => (
        <p key={finding} className={styles.lead}>
          {finding}
        </p>
      ))}
      {data.expected.map(({ about, said, outcome }) => (
        <p key={about} className={styles.prose}>
          {expectedText(t, about, said, outcome)}
        </p>
      ))}
      {data.agreement !== null && (
        <p className={styles.prose}>
          {t(`own.liked.${likedAs(data.agreement)}`, { value: data.agreement.toFixed(2) })}
        </p>
      )}
      {data.circles && data.circles.of > 0 && (
        <p className={styles.prose}>{t('own.circles', data.circles)}</p>
      )}
      {data.parts.map(
        (part, i) =>
          part.said.length > 0 && (
            <Part key={i} part={part} number={data.parts.length > 1 ? i + 1 : null} />
          ),
      )}
    </>
  );
}
