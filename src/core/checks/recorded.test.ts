import { proposedPassages, recordedAt, recordedSpan } from './recorded';

it('reads date and time of day, the samples since midnight first', () => {
  const date = { originationDate: '2026-11-20', originationTime: '14:32:05' };
  expect(recordedAt(date, 48000)).toBe('2026-11-20 14:32:05');
  // 15 h 4 min 9 s
  const samples = (15 * 3600 + 4 * 60 + 9) * 96000;
  expect(recordedAt({ ...date, timeReferenceSamples: samples }, 96000)).toBe('2026-11-20 15:04:09');
  expect(recordedAt({ originationDate: '2026:11:20' }, 48000)).toBe('2026-11-20');
  expect(recordedAt({ originationDate: 'yesterday' }, 48000)).toBeNull();
  expect(recordedAt({}, 48000)).toBeNull();
});

it('lays takes of different rates on one clock', () => {
  const date = { originationDate: '2026-11-20' };
  const at = (rate: number) =>
    recordedSpan({ ...date, timeReferenceSamples: 3600 * rate }, rate, 90);
  const oneOClock = Date.UTC(2026, 10, 20, 1) / 1000;
  expect(at(44100)).toEqual([oneOClock, oneOClock + 90]);
  expect(at(96000)).toEqual(at(44100));
  // A day alone is no time, and neither is a time that there is not.
  expect(recordedSpan(date, 48000, 90)).toBeNull();
  const never = { originationDate: '2026-13-40', originationTime: '25:61:00' };
  expect(recordedSpan(never, 48000, 90)).toBeNull();
});

it('proposes passages that files speak of, once each', () => {
  const said = [
    'Contralto: quiet verse, take 1',
    'Contralto: bridge, take 2',
    'bridge take 3',
    '',
    undefined,
  ];
  expect(proposedPassages(said, ['Quiet verse'])).toEqual(['bridge']);
});
