'use client';

import { useTranslations } from 'use-intl';
import { Message } from '@/steps/listening/ui/Message';
import { useLookAgain } from '@/ui/useLookAgain';

export default function ListenerError({ reset }: { error: Error; reset: () => void }) {
  const t = useTranslations('listening');
  useLookAgain(reset);
  return <Message title={t('moment.heading')}>{t('moment.text')}</Message>;
}
