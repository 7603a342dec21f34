const config = {
  testEnvironment: 'node',
  globalSetup: '<rootDir>/scripts/jest-setup.mjs',
  globalTeardown: '<rootDir>/scripts/jest-teardown.mjs',
  maxWorkers: 2,
  // Looked up in the sandbox these cost more than what is done with them.
  sandboxInjectedGlobals: [
    'Array',
    'Float32Array',
    'Float64Array',
    'Int32Array',
    'Map',
    'Math',
    'Object',
    'Set',
    'Uint32Array',
    'Uint8Array',
  ],
  // Generous: a machine that others keep busy is slow, and no time is asserted anywhere.
  testTimeout: 240000,
  roots: ['<rootDir>/src'],
  testMatch: ['**/*.test.ts'],
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    // Their only entry is for imports, and these tests require.
    '^range-parser$': '<rootDir>/node_modules/range-parser/dist/index.js',
    '^canonicalize$': '<rootDir>/node_modules/canonicalize/lib/canonicalize.js',
    '^server-only$': '<rootDir>/src/platform/test/server-only.ts',
  },
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: [
    'node_modules/(?!(node-pg-migrate|pure-rand|@wasm-audio-decoders|@eshaz|simple-yenc|codec-parser|canonicalize|range-parser|use-intl|intl-messageformat|@formatjs|icu-minify|age-encryption|@noble|@scure)/)',
  ],
};

export default config;
