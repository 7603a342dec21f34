import type { ListenerView } from '../schema';
import styles from './listening.module.css';
import { Message } from './Message';

/** Thanks, and the number to compare with the key later. */
export function Receipt({ view }: { view: ListenerView }) {
  if (view.rehearsal) {
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
        All {view.answered} answers have arrived and are kept. The key is opened when the engineer
        closes the sitting; ask then what you heard.
      </p>
      <p className={styles.prose}>
        This number was fixed before your first answer. The key, once open, must give the same:
      </p>
      <p>
        <code className={styles.code}>{view.seal}</code>
      </p>
    </main>
  );
}
