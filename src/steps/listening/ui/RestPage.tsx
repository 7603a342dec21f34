import styles from './listening.module.css';

/** After a quarter of an hour ears are tired. */
export function RestPage({ onRested }: { onRested: () => void }) {
  return (
    <main className={styles.page}>
      <p className={styles.brand}>Zeitbank sitting</p>
      <h1 className={styles.heading}>Rest your ears for a minute</h1>
      <p className={styles.lead}>
        You have listened for a quarter of an hour. Take the headphones off, look out of the window;
        your place and all answers are kept. Leave the volume as it is.
      </p>
      <div className={styles.foot}>
        <button className={styles.main} onClick={onRested}>
          Go on
        </button>
      </div>
    </main>
  );
}
