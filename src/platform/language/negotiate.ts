import Negotiator from 'negotiator';
import { type Language, LANGUAGES } from './languages';

const isLanguage = (text: string | undefined): text is Language =>
  text !== undefined && Object.hasOwn(LANGUAGES, text);

/**
 * @param chosen by hand, before
 * @param accepted of the browser (RFC 9110, 12.5.4)
 */
export function languageOf(chosen: string | undefined, accepted: string | null): Language {
  if (isLanguage(chosen)) return chosen;
  const asked = new Negotiator({ headers: { 'accept-language': accepted ?? undefined } });
  const [first] = accepted === null ? [] : asked.languages(Object.keys(LANGUAGES));
  return isLanguage(first) ? first : 'en';
}
