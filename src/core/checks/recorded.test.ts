import { proposedPassages, recordedAt } from './recorded';

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
