import '@fontsource-variable/source-serif-4/index.css';
import '@fontsource/ibm-plex-mono/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-400-italic.css';
import '@fontsource/ibm-plex-sans/latin-600.css';
import InitColorSchemeScript from '@mui/material/InitColorSchemeScript';
import { AppRouterCacheProvider } from '@mui/material-nextjs/v16-appRouter';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { NONCE_HEADER } from '@/platform/content-policy';
import { Providers } from '@/ui/Providers';
import { CHOSEN_PAPER_CSS } from '@/ui/tokens';

export const metadata: Metadata = {
  title: 'Zeitbank',
  description: 'Blind comparisons of microphone and preamp chains',
};

export default async function EngineerLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get(NONCE_HEADER) ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <style dangerouslySetInnerHTML={{ __html: CHOSEN_PAPER_CSS }} />
      </head>
      <body>
        <InitColorSchemeScript attribute="data-mui-color-scheme" nonce={nonce} />
        <AppRouterCacheProvider>
          <Providers>{children}</Providers>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
