'use client';

import type { ReactNode } from 'react';
import { IntlProvider } from 'use-intl';
import type { Language } from '@/platform/language/languages';
import type { Messages } from '@/platform/language/messages';

/** What all below says, in one language; a page is sent only the lines of its own part of the program. */
export function InLanguage({
  language,
  messages,
  children,
}: {
  language: Language;
  messages: Partial<Messages>;
  children: ReactNode;
}) {
  return (
    // No line says a time of day; without a zone every rendering would be told that one is missing.
    <IntlProvider locale={language} messages={messages} timeZone="UTC">
      {children}
    </IntlProvider>
  );
}
