import { useTranslations } from 'use-intl';
import styles from './listening.module.css';
import type { Sitting } from './useSitting';

/** Says that an answer waits for the connection, and where it is meanwhile. */
export function WaitingNote({ kept }: { kept: Sitting['waiting'] }) {
  const t = useTranslations('listening');
  if (!kept) return null;
  return (
    <p role="status" className={styles.caution}>
      {kept === 'in this page only' ? t('waiting.here') : t('waiting.kept')}
    </p>
  );
}
