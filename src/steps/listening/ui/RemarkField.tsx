import { useTranslations } from 'use-intl';
import { MOST_REMARK } from '../schema';
import styles from './listening.module.css';

/** One line in the listener's own words, for whoever has something to say; folded, so that nobody feels asked. */
export function RemarkField({
  value,
  onChange,
}: {
  value: string;
  onChange: (remark: string) => void;
}) {
  const t = useTranslations('listening');
  return (
    <details className={styles.seal}>
      <summary>{t('remark.add')}</summary>
      <label className={styles.field}>
        {t('remark.label')}
        <input
          type="text"
          value={value}
          maxLength={MOST_REMARK}
          onChange={({ target }) => onChange(target.value)}
        />
      </label>
      {t('remark.kept')}
    </details>
  );
}
