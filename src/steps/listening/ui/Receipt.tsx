'use client';

import dynamic from 'next/dynamic';
import type { ListenerView } from '../views';
import styles from './listening.module.css';
import { Message } from './Message';

// Only after the end; the first page stays light without it.
export const OwnAnswers = dynamic(() => import('./OwnAnswers').then((file) => file.OwnAnswers));

/** What a listener can keep: text that says what was fixed, and what was answered. */
function receiptText({ title, seal, alias, receipt }: ListenerView): string {
  return [
    `Zeitbank receipt: ${title}`,
    `Listener: ${alias ?? ''}, seat ${receipt?.seat ?? ''}`,
    `Answers: ${receipt?.answers ?? 0}, the last ${receipt?.lastAt ?? ''}`,
    `SHA-256 of the answers: ${receipt?.answersSha256 ?? ''}`,
    `Seal of the key: ${seal}`,
    '',
    'The key was fixed before the first answer. Once it is open, sha256sum of the key file gives the',
    'seal above. The answers are hashed as canonical JSON (RFC 8785): a list of {answer, position}.',
    '',
  ].join('\n');
}

function save(view: ListenerView): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([receiptText(view)], { type: 'text/plain' }));
  link.download = 'zeitbank-receipt.txt';
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}

/** The numbers to compare later, and what of them can be had now. */
export function Proofs({ view, token }: { view: ListenerView; token: string }) {
  const { receipt, keyOpen, partsTold, seal, devices } = view;
  if (!receipt) return null;
  return (
    <>
      {(keyOpen || partsTold > 0) && <OwnAnswers token={token} />}
      <p className={styles.prose}>
        This number was fixed before your first answer. The key, once open, must give the same:
      </p>
      <p>
        <code className={styles.code}>{seal}</code>
      </p>
      <p className={styles.prose}>
        And this one stands for your {receipt.answers} answers as they are kept
        {devices > 1 ? `, given on ${devices} devices` : ''}:
      </p>
      <p>
        <code className={styles.code}>{receipt.answersSha256}</code>
      </p>
      <div className={styles.foot}>
        <button className={styles.main} onClick={() => save(view)}>
          Save the receipt
        </button>
        {keyOpen && (
          <a className={styles.plain} href={`/api/listen/${token}/key`}>
            The key (JSON)
          </a>
        )}
      </div>
    </>
  );
}

const REVEALED: Record<ListenerView['reveal'], string> = {
  'after closing':
    'When the engineer closes the sitting, the key is opened, and your own answers stand on this page with the names.',
  'after each part':
    'Below stand your own answers with the names; when the engineer closes the sitting, the key is opened.',
  never: 'The names of this sitting are not given out; your receipt keeps its seal.',
};

const OPENED: Record<ListenerView['purpose'], string> = {
  panel: 'The sitting is closed and the key is open.',
  rehearsal: '',
  'self-test': 'The key is open; what follows is about you alone.',
};

/** Thanks, and the numbers to compare with the key later. */
export function Receipt({ view, token }: { view: ListenerView; token: string }) {
  if (view.purpose === 'rehearsal') {
    return (
      <Message title="End of the rehearsal">
        That is what listeners meet, from the first page to this one. Nothing of it is kept; close
        this window.
      </Message>
    );
  }
  return (
    <main className={styles.page}>
      <p className={styles.brand}>Zeitbank sitting</p>
      <h1 className={styles.heading}>Thank you, {view.alias}</h1>
      <p className={styles.lead}>
        All {view.answered} answers have arrived and are kept.{' '}
        {view.keyOpen ? OPENED[view.purpose] : REVEALED[view.reveal]}
      </p>
      <Proofs view={view} token={token} />
    </main>
  );
}
