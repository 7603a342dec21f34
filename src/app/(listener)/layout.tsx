import '@fontsource-variable/source-serif-4/index.css';
import '@fontsource/ibm-plex-mono/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-600.css';
import './listener.css';
import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';
import { languageAsked } from '@/platform/language/asked';
import { compiledIn } from '@/platform/language/compiled';
import { Awake } from '@/ui/Awake';
import { InLanguage } from '@/ui/language/InLanguage';
import { DEVICE_PAPER_CSS } from '@/ui/tokens';

export const metadata: Metadata = { title: 'Zeitbank sitting', robots: { index: false } };
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default async function ListenerLayout({ children }: { children: ReactNode }) {
  const language = await languageAsked();
  const { listening } = compiledIn(language);
  return (
    <html lang={language}>
      <head>
        <style dangerouslySetInnerHTML={{ __html: DEVICE_PAPER_CSS }} />
      </head>
      <body>
        <InLanguage language={language} messages={{ listening }}>
          <Awake>{children}</Awake>
        </InLanguage>
      </body>
    </html>
  );
}
