import type { useTranslations } from 'use-intl';
import { RequestError } from '@/ui/request';

export type Say = ReturnType<typeof useTranslations<'listening'>>;

/** Why something did not work: the bank says it in the listener's language, and what never reached it is said here. */
export function failureText(t: Say, error: unknown): string {
  if (!(error instanceof RequestError)) return t('failed');
  return error.status === 0 ? t('unreachable') : error.message;
}
