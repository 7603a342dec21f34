'use client';

import dynamic from 'next/dynamic';
import { useTranslations } from 'use-intl';
import type { ListenerView } from '../views';
import type { Say } from './failure-text';
import styles from './listening.module.css';
import { Message } from './Message';

// Only after the end; the first page stays light without it.
export const OwnAnswers = dynamic(() => import('./OwnAnswers').then((file) => file.OwnAnswers));

/** What a listener can keep: text that says what was fixed, and what was answered. */
function receiptText(t: Say, { title, seal, alias, receipt }: ListenerView): string {
  return [
    t('receipt.file.title', { title }),
    t('receipt.file.listener', { alias: alias ?? '', seat: receipt?.seat ?? '' }),
    t('receipt.file.answers', { answers: receipt?.answers ?? 0, at: receipt?.lastAt ?? '' }),
    t('receipt.file.hash', { hash: receipt?.answersSha256 ?? '' }),
    t('receipt.file.seal', { seal }),
    '',
    t('receipt.file.check'),
    '',
  ].join('\n');
}

function save(t: Say, view: ListenerView): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([receiptText(t, view)], { type: 'text/plain' }));
  link.download = 'zeitbank-receipt.txt';
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}

/** The numbers to compare later, and what of them can be had now. */
export function Proofs({ view, token }: { view: ListenerView; token: string }) {
  const t = useTranslations('listening');
  const { receipt, keyOpen, partsTold, seal, devices } = view;
  if (!receipt) return null;
  return (
    <>
      {(keyOpen || partsTold > 0) && <OwnAnswers token={token} />}
      <p className={styles.prose}>{t('receipt.fixed')}</p>
      <p>
        <code className={styles.code}>{seal}</code>
      </p>
      <p className={styles.prose}>
        {t('receipt.answers', { answers: receipt.answers, devices: Math.max(1, devices) })}
      </p>
      <p>
        <code className={styles.code}>{receipt.answersSha256}</code>
      </p>
      <div className={styles.foot}>
        <button className={styles.main} onClick={() => save(t, view)}>
          {t('receipt.save')}
        </button>
        {keyOpen && (
          <a className={styles.plain} href={`/api/listen/${token}/key`}>
            {t('receipt.key')}
          </a>
        )}
      </div>
    </>
  );
}

/** Thanks, and the numbers to compare with the key later. */
export function Receipt({ view, token }: { view: ListenerView; token: string }) {
  const t = useTranslations('listening');
  const { purpose, reveal } = view;
  if (purpose === 'rehearsal') {
    return <Message title={t('receipt.rehearsal.heading')}>{t('receipt.rehearsal.text')}</Message>;
  }
  return (
    <main className={styles.page}>
      <p className={styles.brand}>{t('brand')}</p>
      <h1 className={styles.heading}>{t('receipt.heading', { alias: view.alias ?? '' })}</h1>
      <p className={styles.lead}>
        {t('receipt.arrived', { answers: view.answered })}{' '}
        {view.keyOpen ? t(`receipt.opened.${purpose}`) : t(`receipt.revealed.${reveal}`)}
      </p>
      <Proofs view={view} token={token} />
    </main>
  );
}
