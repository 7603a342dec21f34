import { build } from 'esbuild';

const target = process.argv[2];
const common = {
  bundle: true,
  platform: 'node',
  target: 'node20',
  sourcemap: true,
  logLevel: 'warning',
};

/** For a browser, in one file without modules. */
const oneScript = {
  bundle: true,
  minify: true,
  platform: 'browser',
  target: 'es2022',
  format: 'iife',
  logLevel: 'warning',
};

/**
 * What the command line never says need not be read each time: its sentences in fifty other languages, and the
 * tracing of a library, which brings half of the network with it.
 */
const onlyWhatIsSaid = {
  name: 'only what is said',
  setup({ onResolve }) {
    const here = (file) => ({ path: new URL(file, import.meta.url).pathname });
    onResolve({ filter: /\/locales\/index\.js$/ }, () => here('empty.mjs'));
    onResolve({ filter: /^debug$/ }, () => here('silent.cjs'));
  },
};

if (target === 'cli') {
  // One file without dependencies, so that commands start at once.
  await build({
    ...common,
    entryPoints: ['src/cli/main.ts'],
    outfile: 'dist/cli.cjs',
    format: 'cjs',
    minify: true,
    plugins: [onlyWhatIsSaid],
  });
} else {
  // The server-only guard is for bundlers of browser code.
  await build({
    ...common,
    entryPoints: {
      supervisor: 'src/worker/supervisor.ts',
      backup: 'src/worker/backup/main.ts',
      worker: 'src/worker/main.ts',
      web: 'src/worker/web.ts',
      tasks: 'src/worker/tasks/index.ts',
      'test-database': 'src/worker/test-database.ts',
    },
    outdir: 'dist/services',
    format: 'esm',
    outExtension: { '.js': '.mjs' },
    packages: 'external',
    splitting: true,
    alias: { 'server-only': './scripts/empty.mjs' },
    jsx: 'automatic',
  });
  // Keeps pages in a browser; it must be one script, at the root of what it keeps.
  await build({
    ...oneScript,
    define: { 'process.env.NODE_ENV': '"production"' },
    entryPoints: ['src/ui/offline/service-worker.ts'],
    outfile: 'public/service-worker.js',
  });
  // Goes into a file of its own that is opened anywhere, so it is one script without modules.
  await build({
    ...oneScript,
    entryPoints: ['src/steps/results/verdict/player.ts'],
    outfile: 'dist/services/verdict-player.js',
  });
}
