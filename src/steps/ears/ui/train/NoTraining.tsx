'use client';

import { useTranslations } from 'use-intl';
import { Message } from '@/steps/listening/ui/Message';

/** For a link that is not, or no longer, one. */
export function NoTraining() {
  const t = useTranslations('training');
  return (
    <Message title={t('noTraining.heading')} brand={t('brand')}>
      {t('noTraining.text')}
    </Message>
  );
}
