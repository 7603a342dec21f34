'use client';

import { LISTENING } from '@/steps/listening/endpoints';
import { useRead } from '@/ui/useRead';
import type { OwnAnswers as Own } from '../views';
import styles from './listening.module.css';

const EXPECTED: Record<string, string> = {
  yes: 'that they can be told apart',
  perhaps: 'that they can perhaps be told apart',
  no: 'that they can hardly be told apart',
};

/** How far the others like the same, in words. */
function agreementText(agreement: number): string {
  const like =
    agreement > 0.6
      ? 'much the same'
      : agreement > 0.2
        ? 'partly the same'
        : agreement > -0.2
          ? 'something of your own'
          : 'rather the reverse';
  return `You liked ${like} as the others (${agreement.toFixed(2)}; 1 is the same order, −1 the reverse).`;
}

function Part({ part, number }: { part: Own['parts'][number]; number: number | null }) {
  const { prompt, heard, said, right } = part;
  return (
    <section className={styles.own}>
      <h2>
        {number !== null && `Part ${number}: `}“{prompt}”
      </h2>
      <p className={styles.hint}>{heard}</p>
      {right && (
        <p className={styles.prose}>
          {right.own} of {right.of} right
          {right.panel &&
            `; the panel ${right.panel.mean.toFixed(1)} on average, from ${right.panel.from} to ${right.panel.to}`}
          .
        </p>
      )}
      <details className={styles.seal}>
        <summary>
          Your {said.length} {said.length === 1 ? 'answer' : 'answers'}, with the names
        </summary>
        <ul>
          {said.map((line, i) => (
            <li key={i}>{line}</li>
          ))}
        </ul>
      </details>
    </section>
  );
}

/** What a listener gets back once the sitting is closed. */
export function OwnAnswers({ token }: { token: string }) {
  const { data, error } = useRead(LISTENING.own, { token }, { revalidateOnFocus: false });
  if (error) return <p className={styles.failure}>{(error as Error).message}</p>;
  if (!data) return <p className={styles.hint}>Your answers are being opened …</p>;
  return (
    <>
      {data.findings.map((finding) => (
        <p key={finding} className={styles.lead}>
          {finding}
        </p>
      ))}
      {data.expected.map(({ about, said, outcome }) => (
        <p key={about} className={styles.prose}>
          You expected {about === 'winner' ? `${said} to be liked best` : EXPECTED[said]}: {outcome}
          {outcome === 'open' && said !== 'perhaps' && ', the panel did not settle it'}.
        </p>
      ))}
      {data.agreement !== null && <p className={styles.prose}>{agreementText(data.agreement)}</p>}
      {data.circles && data.circles.of > 0 && (
        <p className={styles.prose}>
          {data.circles.times === 0
            ? 'Your pairs held no circle (one over a second, the second over a third, and the third over the first).'
            : `Your pairs held ${data.circles.times} circles of ${data.circles.of} that could be; near differences bring them about.`}
        </p>
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
