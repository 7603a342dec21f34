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
  return (
    <details className={styles.seal}>
      <summary>Add a remark</summary>
      <label className={styles.field}>
        In your own words
        <input
          type="text"
          value={value}
          maxLength={MOST_REMARK}
          onChange={({ target }) => onChange(target.value)}
        />
      </label>
      Nobody reads it before the sitting is closed; then it stands beside your answer.
    </details>
  );
}
