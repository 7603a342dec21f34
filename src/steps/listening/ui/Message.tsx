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
