import { UserError } from '@/platform/errors';
import { failureOf } from '@/platform/failure';
import type { Language } from '@/platform/language/languages';
import { messagesIn } from '@/platform/language/messages';

/** All refusals of pages that listeners open, by name. */
function refusalsIn(language: Language): Readonly<Record<string, string>> {
  const { listening, training } = messagesIn(language);
  return { ...listening.refused, ...training.refused };
}

const IN_ENGLISH = new Map(Object.entries(refusalsIn('en')).map(([id, said]) => [said, id]));

/** The same failure in a listener's language; what no translator has seen stays as it is. */
export function inLanguage(error: unknown, language: Language): unknown {
  if (language === 'en') return error;
  const { status, message } = failureOf(error);
  const id = IN_ENGLISH.get(message);
  return id ? new UserError(status as UserError['status'], refusalsIn(language)[id]!) : error;
}

/** Does what a listener asked for, and says in their language why not. */
export async function saying<T>(language: Language, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw inLanguage(error, language);
  }
}
