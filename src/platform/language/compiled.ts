import 'server-only';
import compile from 'icu-minify/compile';
import type { Language } from './languages';
import { type Lines, type Messages, messagesIn } from './messages';

const compiled = (lines: Lines): object =>
  Object.fromEntries(
    Object.entries(lines).map(([key, line]): [string, unknown] => [
      key,
      typeof line === 'string' ? compile(line) : compiled(line),
    ]),
  );

const made = new Map<Language, Messages>();

/**
 * What pages are sent instead of the lines as they are written: read already, so that no browser has to load what
 * reads them (`next.config.ts` leaves it out).
 */
export function compiledIn(language: Language): Messages {
  // Only plain objects travel to the browser, and the compiler makes some without a prototype.
  const kept =
    made.get(language) ?? (JSON.parse(JSON.stringify(compiled(messagesIn(language)))) as Messages);
  made.set(language, kept);
  return kept;
}
