import { readNumber } from '@/core/text/numbers';
import { faultOf, TOOLS } from './tools';
import type { Answer } from './tools/tool';

function answer(id: string, given: Record<string, string> = {}): Answer {
  const tool = TOOLS.find((one) => one.id === id);
  if (!tool) throw new Error(`no tool ${id}`);
  const text = (name: string) =>
    given[name] ?? tool.fields.find((field) => field.name === name)?.usual ?? '';
  return tool.answer((name) => readNumber(text(name)) ?? Number.NaN, text);
}
const line = (made: Answer, label: string) => made.lines.find(([name]) => name === label)?.[1];

it.each(TOOLS.map((tool) => [tool.id, tool] as const))(
  '%s answers with its usual values',
  (id, tool) => {
    for (const field of tool.fields) expect(faultOf(field, field.usual)).toBeNull();
    const made = answer(id);
    expect(made.finding).toMatch(/\.$/);
    for (const { points } of made.figure.curves) {
      expect(points.length).toBeGreaterThan(3);
      for (const [x, y] of points) expect(Number.isFinite(x) && Number.isFinite(y)).toBe(true);
    }
    expect(tool.formulas.length).toBeGreaterThan(0);
  },
);

it('works out gain: 70 dB at 1 m, 20 cm, -55 dB re 1 V/Pa, 200 into 1500 Ω', () => {
  const made = answer('gain');
  // 70 + 13.98; -55 + 83.98 - 94 + 2.22 - 1.09 = -63.89 dBu; 0 dBu is the target.
  expect(line(made, 'At the microphone')).toBe('84.0 dB SPL');
  expect(line(made, 'Out of it, loaded')).toBe('−63.9 dBu');
  expect(line(made, 'Gain needed')).toBe('63.9 dB');
  expect(made.finding).toBe('4 dB short: no more gain.');
});

it('loads a flat source by 1.09 dB, and by 2.05 dB with a second input', () => {
  const made = answer('loading', { source: 'flat impedance' });
  expect(line(made, 'Drop at 1 kHz')).toBe('−1.09 dB; with the second −2.05 dB');
  expect(line(made, '100 Hz against 1 kHz')).toBe('0.00 dB; with the second 0.00 dB');
});

it('knows the cardioid: 1.73, room 4.8 dB down, nothing from behind', () => {
  const made = answer('distance');
  expect(line(made, 'Distance factor')).toBe('1.73');
  expect(line(made, 'Room against an omni')).toBe('−4.8 dB');
  expect(line(made, 'Level, near against far')).toBe('12.0 dB');
  expect(answer('distance', { angle: '180' }).finding).toContain('null of the pattern');
});

it('converts units: 4 dBu is 1.228 V, 1 Pa is 93.98 dB SPL; 20 and 17 dB make 21.8', () => {
  const made = answer('decibels');
  expect(line(made, 'V')).toBe('1.228 V');
  expect(line(made, 'dBV')).toBe('1.782 dBV');
  expect(line(made, 'Both noises together')).toBe('21.76 dB');
  expect(line(answer('decibels', { value: '1', unit: 'Pa' }), 'dB SPL')).toBe('93.98 dB SPL');
});

it('finds partners of equal cost', () => {
  expect(answer('cost').finding).toBe(
    'Plain mic, good preamp and Good mic, plain preamp cost the same within 50 €.',
  );
  expect(answer('cost', { chains: 'nonsense\n=\nx=-4' }).finding).toContain(
    'Write one chain to a line',
  );
});

it('says what cannot be in a field', () => {
  const gain = TOOLS[0]!;
  expect(faultOf(gain.fields[0]!, 'loud')).toBe('“loud” is not a number.');
  expect(faultOf(gain.fields[0]!, ' ')).toBe('Write a number.');
  expect(faultOf(gain.fields[0]!, '1e9')).toBe('Between 20 and 150.');
  expect(faultOf(TOOLS[2]!.fields[0]!, 'lobar')).toContain('cardioid');
});
