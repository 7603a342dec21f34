import { UserError } from '@/platform/errors';
import { failureOf } from '@/platform/failure';
import type { Language } from '@/platform/language/languages';
import { messagesIn } from '@/platform/language/messages';

type Refusal = keyof ReturnType<typeof messagesIn>['listening']['refused'];

const IN_ENGLISH = new Map(
  Object.entries(messagesIn('en').listening.refused).map(([id, said]) => [said, id as Refusal]),
);

/** The same failure in a listener's language; what no translator has seen stays as it is. */
export function inLanguage(error: unknown, language: Language): unknown {
  if (language === 'en') return error;
  const { status, message } = failureOf(error);
  const id = IN_ENGLISH.get(message);
  return id
    ? new UserError(status as UserError['status'], messagesIn(language).listening.refused[id])
    : error;
}

/** Does what a listener asked for, and says in their language why not. */
export async function saying<T>(language: Language, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw inLanguage(error, language);
  }
}
