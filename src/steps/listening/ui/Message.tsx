import type { ReactNode } from 'react';
import styles from './listening.module.css';

/** A page that only says something. */
export function Message({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className={styles.page}>
      <p className={styles.brand}>Zeitbank sitting</p>
      <h1 className={styles.heading}>{title}</h1>
      <div className={styles.prose}>{children}</div>
    </main>
  );
}

/** For a link that is not, or no longer, one. */
export function NoSitting() {
  return (
    <Message title="This link leads to no sitting">
      Perhaps a letter is missing at its end, it was withdrawn, or a room that it runs is played on
      another device. Ask the engineer to send another.
    </Message>
  );
}
