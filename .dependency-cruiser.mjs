import { readFileSync } from 'node:fs';

/** Folders of steps, in the order of the work. */
const STEPS = JSON.parse(readFileSync('src/steps/order.json', 'utf8'));

// Tests may look everywhere.
const TESTS = '(\\.test\\.ts$|/test/)';

/** A step may use the steps before it, never a later one. */
const order = STEPS.slice(0, -1).map((step, i) => ({
  name: `${step}-uses-no-later-step`,
  severity: 'error',
  from: { path: `^src/steps/${step}/`, pathNot: TESTS },
  to: { path: `^src/steps/(${STEPS.slice(i + 1).join('|')})/` },
}));

const config = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^src/core/', pathNot: TESTS },
      to: {
        pathNot:
          '^src/core/|node_modules/(fft\\.js|ml-matrix|pure-rand|papaparse|@types/papaparse|@stdlib|zod|canonicalize)/',
      },
    },
    {
      name: 'platform-knows-no-step',
      severity: 'error',
      from: { path: '^src/platform/', pathNot: TESTS },
      to: { path: '^src/(steps|app|pages|cli|worker|ui)/' },
    },
    {
      name: 'steps-know-no-routes',
      severity: 'error',
      from: { path: '^src/(steps|ui)/', pathNot: TESTS },
      to: { path: '^src/(app|pages|cli|worker)/' },
    },
    {
      name: 'listener-stays-light',
      comment: 'No chart, table or waveform code, and no other step, reaches the listener.',
      severity: 'error',
      from: { path: '^src/steps/listening/ui/' },
      to: { path: '^src/steps/(?!listening)|node_modules/(echarts|wavesurfer\\.js)/' },
    },
    {
      name: 'training-page-stays-light',
      severity: 'error',
      from: { path: '^src/steps/ears/ui/train/' },
      to: { path: '^src/steps/(?!listening|ears)|node_modules/(echarts|wavesurfer\\.js|@mui)/' },
    },
    ...order,
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'node'] },
  },
};

export default config;
