import type { ClipSet } from '@/steps/match/schema';
import { findingOf } from './finding';

const ready = (method: ClipSet['method']) =>
  ({ state: 'ready', method, facts: { worstResidualLu: 0.0004 } }) as ClipSet;
const clips = [
  { afterLufs: -23.4, details: {} },
  { afterLufs: -22.6, details: {} },
];

it('calls clips equally loud only where loudness was matched', () => {
  const { finding, aside } = findingOf(ready('loudness'), clips);
  expect(finding).toBe('Two clips, equally loud');
  expect(aside).toContain('within 0.001 LU');
});

it('says of rooms at the same gain that they are too quiet to have a loudness', () => {
  const quiet = { afterLufs: null, details: {} };
  expect(findingOf(ready('gain'), [clips[0]!, quiet]).aside).toBe(
    'one of them is too quiet to have a loudness; set no level by it',
  );
  expect(findingOf(ready('gain'), [quiet, quiet]).aside).toContain(
    'all are too quiet to have a loudness; set no level by them',
  );
});

it('says where one is louder on purpose', () => {
  const louder = { afterLufs: -22.9, details: { onPurposeDb: 0.5 } };
  const { finding, aside } = findingOf(ready('loudness'), [clips[0]!, louder]);
  expect(finding).toBe('Two clips, equally loud but for one on purpose');
  expect(aside).toContain('of the loudness that it shall have');
  expect(findingOf(ready('loudness'), [louder, louder]).finding).toContain('but for 2 on purpose');
});

it.each([
  ['rms', 'Two clips at one RMS level'],
  ['tone', 'Two clips, matched by a printed tone'],
  ['hand', 'Two clips at levels set by hand'],
] as const)(
  'heads a set by its method, %s, and shows the loudness that came of it',
  (method, head) => {
    const { finding, aside } = findingOf(ready(method), clips);
    expect(finding).toBe(head);
    expect(aside).toContain('0.8 LU apart');
    expect(aside).not.toContain('within');
  },
);
