import de from '@/messages/de.json';
import en from '@/messages/en.json';
import es from '@/messages/es.json';
import fr from '@/messages/fr.json';
import type { Language } from './languages';

export type Messages = typeof en;

/** What a translator wrote: any line may be missing. */
export interface Lines {
  [key: string]: string | Lines;
}

const WRITTEN: Readonly<Record<Language, Lines>> = { en, de, fr, es };

/** Lines of a translation; what it lacks, or leaves empty, stands there in English. */
export function filledIn(lines: Lines, english: Lines): Lines {
  return Object.fromEntries(
    Object.entries(english).map(([key, line]): [string, string | Lines] => {
      const own = Object.hasOwn(lines, key) ? lines[key] : undefined;
      if (typeof line === 'string') return [key, typeof own === 'string' && own ? own : line];
      return [key, filledIn(typeof own === 'object' ? own : {}, line)];
    }),
  );
}

const made = new Map<Language, Messages>();

/** All that is said in a language. */
export function messagesIn(language: Language): Messages {
  const kept = made.get(language) ?? (filledIn(WRITTEN[language], en) as Messages);
  made.set(language, kept);
  return kept;
}
