import { useTranslations } from 'use-intl';
import type { ListenerView } from '../views';
import type { Say } from './failure-text';
import styles from './listening.module.css';

type Shown = Pick<ListenerView, 'part' | 'minutesLeft'>;

/** Where the listener stands, as honest as it can be told. */
export function placeOf(t: Say, { part, minutesLeft }: Shown): string {
  return t('trial.place', {
    parts: part.of,
    part: part.number,
    kind: part.task,
    number: part.answered + 1,
    of: part.trials,
    minutes: Math.max(1, Math.ceil(minutesLeft)),
  });
}

/** The top of a trial: how far, and how long still. */
export function TrialHead({
  view,
  place,
  brand,
}: {
  brand?: string;
  view: { trials: number; answered: number };
  place: string;
}) {
  const t = useTranslations('listening');
  return (
    <>
      <header className={styles.top}>
        <span className={styles.brand}>{brand ?? t('brand')}</span>
        <span>{place}</span>
      </header>
      <div
        className={styles.progress}
        role="progressbar"
        aria-label={t('trial.answered')}
        aria-valuemin={0}
        aria-valuemax={view.trials}
        aria-valuenow={view.answered}
      >
        <div style={{ width: `${(100 * view.answered) / view.trials}%` }} />
      </div>
    </>
  );
}
