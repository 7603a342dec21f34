import { TASK_IDS, TASKS } from '@/core/tasks';
import { STEREO_WORDS, TONAL_WORDS } from '@/core/tasks/words/lists';
import { tellings } from './telling';

const NAMES = [
  'Kern 40 › Steg 4',
  'Kern 40',
  'Steg 4',
  'Halde T2',
  'Ørsted Röhre',
  'A',
  'Small Ribbon',
];
const certain = (text: string) => tellings(text, NAMES).filter((one) => one.certain);

it('finds names and their distinctive parts as whole words, whatever their case and accents', () => {
  for (const text of [
    'Which suits better, the KERN or the other?',
    'kern 40 against the rest',
    'the t2 on voice',
    'ørsted röhre',
    'the Rohre, close',
    'Kern-40: contralto',
  ]) {
    expect(certain(text).length).toBeGreaterThan(0);
  }
});

it('lets texts be that only hold letters of a name, or common words', () => {
  for (const text of [
    'A concern for kernels and steganography',
    'Contralto, 40 bars, 4 seconds',
    'Which of the two is the small one?',
    'Which ribbon of sound is smoother?',
  ]) {
    expect(certain(text)).toEqual([]);
  }
});

it('only warns of names of one or two signs', () => {
  expect(tellings('Is a better than the other?', NAMES)).toEqual([
    { name: 'A', words: 'a', certain: false },
  ]);
});

it('no question and no word that ships names common gear', () => {
  const names = ['Small Ribbon', 'Reference', 'Bright', 'Voice Channel', 'Pair'];
  for (const id of TASK_IDS) {
    expect(tellings(TASKS[id].prompt, names).filter((one) => one.certain)).toEqual([]);
  }
  for (const word of [...TONAL_WORDS, ...STEREO_WORDS]) {
    expect(tellings(word, names).filter((one) => one.certain)).toEqual([]);
  }
});
