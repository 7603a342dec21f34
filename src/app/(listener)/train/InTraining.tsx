import type { ReactNode } from 'react';
import { compiledIn } from '@/platform/language/compiled';
import type { Language } from '@/platform/language/languages';
import { InLanguage } from '@/ui/language/InLanguage';

/** Pages of training: they take lines of a listener's pages, too. */
export function InTraining({ language, children }: { language: Language; children: ReactNode }) {
  const { listening, training } = compiledIn(language);
  return (
    <div lang={language}>
      <InLanguage language={language} messages={{ listening, training }}>
        {children}
      </InLanguage>
    </div>
  );
}
