import type { Language } from '@/platform/language/languages';
import type { Messages } from '@/platform/language/messages';

declare module 'use-intl' {
  interface AppConfig {
    Locale: Language;
    Messages: Messages;
  }
}
