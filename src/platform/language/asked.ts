import 'server-only';
import { cookies, headers } from 'next/headers';
import { type Language, LANGUAGE_COOKIE } from './languages';
import { languageOf } from './negotiate';

/** In which language this request is answered. */
export async function languageAsked(): Promise<Language> {
  const chosen = (await cookies()).get(LANGUAGE_COOKIE)?.value;
  return languageOf(chosen, (await headers()).get('accept-language'));
}
