import type { ListenerView } from '../views';
import styles from './listening.module.css';

type Shown = Pick<ListenerView, 'part' | 'minutesLeft'>;

/** Where the listener stands, as honest as it can be told. */
export function placeOf({ part, minutesLeft }: Shown): string {
  const what = part.task === 'pair' ? 'Pair' : 'Trial';
  const inPart = `${what} ${part.answered + 1} of ${part.trials}`;
  const minutes = `about ${Math.max(1, Math.ceil(minutesLeft))} min left`;
  return part.of > 1
    ? `Part ${part.number} of ${part.of} · ${inPart} · ${minutes}`
    : `${inPart} · ${minutes}`;
}

/** The top of a trial: how far, and how long still. */
export function TrialHead({
  view,
  place,
}: {
  view: { trials: number; answered: number };
  place: string;
}) {
  return (
    <>
      <header className={styles.top}>
        <span className={styles.brand}>Zeitbank sitting</span>
        <span>{place}</span>
      </header>
      <div
        className={styles.progress}
        role="progressbar"
        aria-label="Trials answered"
        aria-valuemin={0}
        aria-valuemax={view.trials}
        aria-valuenow={view.answered}
      >
        <div style={{ width: `${(100 * view.answered) / view.trials}%` }} />
      </div>
    </>
  );
}
