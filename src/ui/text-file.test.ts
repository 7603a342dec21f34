import { encodingOf, textOf } from './text-file';

const TEXT =
  'name;kind;price\r\nGroßmembran Mühle;microphone;1.290,50\r\nÉtoile N°2;preamp;89 £\r\n';

/** Node's own decoder takes Windows-1252 for Latin-1; what the two share is enough here. */
const western = (text: string) => Uint8Array.from(text, (sign) => sign.charCodeAt(0));
const wide = (text: string, little: boolean) => {
  const bytes = Buffer.from(text, 'utf16le');
  return new Uint8Array(little ? bytes : bytes.swap16());
};

it.each([
  ['utf-8', new TextEncoder().encode(TEXT)],
  ['utf-8', new TextEncoder().encode(`\ufeff${TEXT}`)],
  ['windows-1252', western(TEXT)],
  ['utf-16le', wide(`\ufeff${TEXT}`, true)],
  ['utf-16be', wide(`\ufeff${TEXT}`, false)],
  ['utf-16le', wide(TEXT, true)],
  ['utf-16be', wide(TEXT, false)],
] as const)('recognises %s and reads it', (encoding, bytes) => {
  expect(encodingOf(bytes)).toBe(encoding);
  expect(textOf(bytes, encoding)).toBe(TEXT);
});

it('takes plain English for UTF-8, and an empty file for empty text', () => {
  expect(encodingOf(new TextEncoder().encode('name,kind\nA,preamp\n'))).toBe('utf-8');
  expect(textOf(new Uint8Array(0), encodingOf(new Uint8Array(0)))).toBe('');
});
