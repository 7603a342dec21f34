import type { MetadataRoute } from 'next';
import { PAPERS } from '@/ui/tokens';

/** Without a first page of its own: what is installed opens where it was installed, a run sheet or a listener's link. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: 'Zeitbank',
    short_name: 'Zeitbank',
    display: 'standalone',
    background_color: PAPERS.light.sheet,
    theme_color: PAPERS.light.sheet,
    icons: [
      { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' },
      { src: '/apple-icon.png', sizes: '512x512', type: 'image/png' },
    ],
  };
}
