import { gainText, readGain } from './gain-text';

it.each([
  ['', { gainDb: null, knob: '' }],
  ['38', { gainDb: 38, knob: '' }],
  ['-6,5', { gainDb: -6.5, knob: '' }],
  ['knob 3', { gainDb: null, knob: '3' }],
  ['Knob at 7', { gainDb: null, knob: '7' }],
  ['knob half past two', { gainDb: null, knob: 'half past two' }],
])('%j is read as what it says', (text, gain) => {
  expect(readGain(text)).toEqual(gain);
});

it.each([
  ['140', 'Gain lies between -60 and 100 dB.'],
  ['3:15', '“3:15” is not a number. Of a knob write “knob 3:15”.'],
  ['4o', '“4o” is not a number. Of a knob write “knob 4o”.'],
  ['much', '“much” is not a number. Of a knob write “knob much”.'],
  ['knob', 'Say where the knob stands: “knob 3”.'],
  ['knobs', '“knobs” is not a number. Of a knob write “knob knobs”.'],
  ['knob at the place where the tape is', 'Keep the knob’s position under 20 characters.'],
])('%j is refused with a sentence', (text, sentence) => {
  expect(readGain(text)).toEqual(sentence);
});

it('what was read is shown as it would be typed', () => {
  for (const text of ['', '38', 'knob 3', 'knob half past two']) {
    const read = readGain(text);
    expect(typeof read === 'string' ? read : gainText(read)).toBe(text);
  }
});
