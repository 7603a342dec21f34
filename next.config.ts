import type { NextConfig } from 'next';

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  serverExternalPackages: [
    'pg',
    'pg-boss',
    'piscina',
    '@node-rs/argon2',
    'pg-copy-streams',
    'pino',
    'playwright-core',
  ],
  // Messages reach browsers compiled (`src/platform/language/compiled.ts`).
  turbopack: {
    resolveAlias: { 'use-intl/format-message': 'use-intl/format-message/format-only' },
  },
  logging: { serverFunctions: false },
  devIndicators: false,
  // Types are checked once, by the tests; a first start need not wait for it.
  typescript: { ignoreBuildErrors: true },
  headers: () =>
    Promise.resolve([
      {
        source: '/:path*',
        headers: [
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'same-origin' },
        ],
      },
      {
        // What routes answer is no page; pages get their policy in `src/proxy.ts`.
        source: '/api/:path*',
        headers: [
          {
            key: 'Content-Security-Policy',
            value: "default-src 'none'; frame-ancestors 'none'",
          },
        ],
      },
    ]),
};

export default config;
