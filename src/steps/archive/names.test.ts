import { fileName, uniqueNames } from './names';

it.each([
  ['Kern 40 › Linie 2', 'Kern 40 - Linie 2'],
  ['../../etc/passwd', 'etc-passwd'],
  ['C:\\takes\\one.wav', 'C-takes-one.wav'],
  ['  Größe, “laut”? ', 'Größe, -laut'],
  ['...', 'unnamed'],
  ['\u0000\u202e', 'unnamed'],
  ['x'.repeat(200), 'x'.repeat(80)],
])('writes %j as a name that every file system takes', (text, name) => {
  expect(fileName(text)).toBe(name);
});

it('gives none of several the name of another, on systems that know no case either', () => {
  const unique = uniqueNames();
  expect(['a.wav', 'A.wav', 'a.wav', 'a (2).wav', 'b'].map(unique)).toEqual([
    'a.wav',
    'A (2).wav',
    'a (3).wav',
    'a (2) (2).wav',
    'b',
  ]);
});
