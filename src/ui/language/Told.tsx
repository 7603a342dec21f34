import type { ReactNode } from 'react';
import { compiledIn } from '@/platform/language/compiled';
import type { Language } from '@/platform/language/languages';
import type { Messages } from '@/platform/language/messages';
import { InLanguage } from './InLanguage';

/** A page in a language that is not left to the browser, or with more lines than its layout sends. */
export function Told({
  language,
  parts,
  children,
}: {
  language: Language;
  /** Whose lines it takes. */
  parts: readonly (keyof Messages)[];
  children: ReactNode;
}) {
  const all = compiledIn(language);
  return (
    <div lang={language}>
      <InLanguage
        language={language}
        messages={Object.fromEntries(parts.map((part) => [part, all[part]]))}
      >
        {children}
      </InLanguage>
    </div>
  );
}
