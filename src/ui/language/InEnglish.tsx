import type { ReactNode } from 'react';
import { compiledIn } from '@/platform/language/compiled';
import { InLanguage } from './InLanguage';

/** Pages that ship in English only, whatever the browser asks for. */
export function InEnglish({ children }: { children: ReactNode }) {
  const { listening } = compiledIn('en');
  return (
    <div lang="en">
      <InLanguage language="en" messages={{ listening }}>
        {children}
      </InLanguage>
    </div>
  );
}
