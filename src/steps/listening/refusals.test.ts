import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { UserError } from '@/platform/errors';
import { messagesIn } from '@/platform/language/messages';
import { inLanguage, saying } from './refusals';

const { listening, training } = messagesIn('en');
const said: string[] = [...Object.values(listening.refused), ...Object.values(training.refused)];
/** Whose routes answer listeners, and those who train by a link. */
const FOLDERS = [__dirname, path.join(__dirname, '../ears')];

/** What only an engineer or whoever runs a room is told. */
const OF_ROOMS = [
  'Open the room’s page first; it keeps a cookie here.',
  'This sitting is closed; nothing more can be played.',
  'Play every recording of this trial first.',
  'This room is run on another device; ask the engineer for a link of your own, or go on there.',
  'The panel is tested on one clip; choose another skill.',
  'The panel has this test already.',
];

it('every sentence that refuses a listener can be said in all languages', () => {
  const sentences = FOLDERS.flatMap((folder) =>
    readdirSync(folder).map((file) => path.join(folder, file)),
  )
    .filter((file) => /(?<!\.test)\.ts$/.test(file))
    .flatMap((file) => {
      const text = readFileSync(file, 'utf8');
      return [
        ...text.matchAll(/new UserError\(\s*\d+,\s*(?:[\w.\s>]+\?\s*)?((?:'[^']+'[\s:]*)+)/g),
        // Those that are said in more than one place.
        ...text.matchAll(/^const [A-Z]+ =\s+('[A-Z][^']+\.');$/gm),
      ].flatMap(([, found]) => [...found!.matchAll(/'([^']+)'/g)].map(([, sentence]) => sentence!));
    });
  expect(sentences.length).toBeGreaterThan(15);
  const unknown = sentences.filter((one) => !said.includes(one) && !OF_ROOMS.includes(one));
  expect(unknown).toEqual([]);
  // Each under a name of its own, wherever it is said.
  expect(Object.keys(listening.refused).filter((id) => id in training.refused)).toEqual([]);
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
