import { bytes, clock, countWord, level, money, signed } from './format';

it('writes levels with sign, true minus and unit', () => {
  expect(signed(6.8149, 2, 'dB')).toBe('+6.81 dB');
  expect(signed(-0.004, 2, 'dB')).toBe('0.00 dB');
  expect(signed(-1.5, 1, 'LU')).toBe('−1.5 LU');
  expect(signed(null, 1, 'LU')).toBe('–');
  expect(signed(Number.NaN, 1, 'LU')).toBe('–');
  expect(level(-24.61, 1, 'LUFS')).toBe('−24.6 LUFS');
  expect(level(3, 0)).toBe('3');
});

it('writes money, time, sizes and counts as people do', () => {
  expect(money(134000)).toBe('1,340 €');
  expect(money(45050)).toBe('450.50 €');
  expect(money(null)).toBe('–');
  expect(clock(75.9)).toBe('1:15');
  expect(clock(3 * 3600 + 62)).toBe('3:01:02');
  expect(bytes(1)).toBe('1 kB');
  expect(bytes(17_280_044)).toBe('17.3 MB');
  expect(bytes(8e9)).toBe('8.00 GB');
  expect(countWord(1, 'clip')).toBe('One clip');
  expect(countWord(6, 'clip')).toBe('Six clips');
  expect(countWord(14, 'clip')).toBe('14 clips');
});
