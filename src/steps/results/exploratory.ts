import { countWord } from '@/ui/format';
import type { Result } from './service';

/** What it means that names were told after each part, wherever the result is shown. */
export function exploratoryText({ afterNames }: NonNullable<Result['exploratory']>): string {
  const late =
    afterNames === 0
      ? 'No answer came after the names of its part were told.'
      : `${countWord(afterNames, 'answer')} came after somebody had been told the names of that part, and ${afterNames === 1 ? 'counts' : 'count'} in no result.`;
  return `Exploratory: names were told after each part, so whoever listened on knew what they had liked before. ${late}`;
}
