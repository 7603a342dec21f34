import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { UserError } from '@/platform/errors';
import { messagesIn } from '@/platform/language/messages';
import { inLanguage, saying } from './refusals';

const said = Object.values(messagesIn('en').listening.refused);

/** What only an engineer or whoever runs a room is told. */
const OF_ROOMS = [
  'Open the room’s page first; it keeps a cookie here.',
  'This sitting is closed; nothing more can be played.',
  'Play every recording of this trial first.',
];

it('every sentence that refuses a listener can be said in all languages', () => {
  const sentences = readdirSync(__dirname)
    .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
    .flatMap((file) => {
      const text = readFileSync(path.join(__dirname, file), 'utf8');
      return [
        ...text.matchAll(/new UserError\(\s*\d+,\s*(?:[\w.\s>]+\?\s*)?((?:'[^']+'[\s:]*)+)/g),
      ].flatMap(([, found]) => [...found!.matchAll(/'([^']+)'/g)].map(([, sentence]) => sentence!));
    });
  expect(sentences.length).toBeGreaterThan(15);
  const unknown = sentences.filter((one) => !said.includes(one) && !OF_ROOMS.includes(one));
  expect(unknown).toEqual([]);
});

it('a refusal keeps its status and changes its language; a failure nobody translated stays', async () => {
  const closed = new UserError(409, messagesIn('en').listening.refused.closed);
  expect(inLanguage(closed, 'de')).toMatchObject({
    status: 409,
    message: messagesIn('de').listening.refused.closed,
  });
  expect(inLanguage(closed, 'en')).toBe(closed);
  const other = new UserError(
    422,
    '“Ada” is taken in this sitting, or looks like a name that is; choose another.',
  );
  expect(inLanguage(other, 'fr')).toBe(other);
  await expect(saying('es', () => Promise.reject(closed))).rejects.toMatchObject({
    message: messagesIn('es').listening.refused.closed,
  });
});
