import format from 'icu-minify/format';
import { createTranslator } from 'use-intl/core';
import { STEREO_WORDS, TONAL_WORDS } from '@/core/tasks/words/lists';
import { TASKS } from '@/core/tasks';
import { compiledIn } from './compiled';
import { LANGUAGES, type Language } from './languages';
import { filledIn, type Lines, messagesIn } from './messages';
import { languageOf } from './negotiate';

const OTHERS = (Object.keys(LANGUAGES) as Language[]).filter((language) => language !== 'en');

/** Every line under its path. */
function flat(lines: Lines, above = ''): [string, string][] {
  return Object.entries(lines).flatMap(([key, line]) =>
    typeof line === 'string'
      ? [[above + key, line] as [string, string]]
      : flat(line, `${above}${key}.`),
  );
}

/** What a line takes, by name. Braces of ICU's message format hold by turns what is taken and what is said. */
function takes(line: string): string[] {
  const names = new Set<string>();
  let depth = 0;
  const bare = line.replaceAll(/'[{}]'/g, '');
  for (const { 0: brace, index } of bare.matchAll(/[{}]/g)) {
    if (brace === '}') depth--;
    else if (depth++ % 2 === 0) {
      const name = /^\w+/.exec(bare.slice(index + 1))?.[0];
      if (name) names.add(name);
    }
  }
  return [...names].sort();
}

const read = (language: Language): Lines =>
  jest.requireActual<Lines>(`../../messages/${language}.json`);

describe('the languages that ship', () => {
  const english = flat(read('en'));

  it.each(OTHERS)('%s has every line, and none that English lacks', (language) => {
    expect(flat(read(language)).map(([path]) => path)).toEqual(english.map(([path]) => path));
  });

  it.each(OTHERS)('%s takes in each line what English takes', (language) => {
    const lines = new Map(flat(read(language)));
    for (const [path, line] of english) {
      expect([path, takes(lines.get(path)!)]).toEqual([path, takes(line)]);
    }
  });

  it.each(Object.keys(LANGUAGES) as Language[])('every line of %s can be said', (language) => {
    const failed: string[] = [];
    const t = createTranslator({
      locale: language,
      messages: read(language) as unknown as ReturnType<typeof messagesIn>,
      onError: ({ message }) => failed.push(message),
    });
    // Numbers where one is counted, words where one is named: both are taken.
    const given = Object.fromEntries(
      english.flatMap(([, line]) => takes(line)).map((name) => [name, 2]),
    );
    for (const [path] of flat(read(language))) {
      expect(t(path as 'listening.brand', given as never)).not.toMatch(/^$|^listening\./);
    }
    expect(failed).toEqual([]);
  });

  it('English says of the tasks what the core says of them', () => {
    const { tasks } = messagesIn('en').listening;
    for (const [id, { name, shows, prompt }] of Object.entries(TASKS)) {
      expect(tasks[id as keyof typeof tasks]).toMatchObject({ name, shows, prompt });
    }
    expect(Object.keys(tasks).sort()).toEqual(Object.keys(TASKS).sort());
  });

  it('the usual words to tick are one list in all languages, and each stands for itself', () => {
    const usual = [...TONAL_WORDS, ...STEREO_WORDS];
    for (const language of Object.keys(LANGUAGES) as Language[]) {
      const { words } = messagesIn(language).listening;
      expect(Object.keys(words).sort()).toEqual([...usual].sort());
      // Two that read alike could not be told apart in the answers.
      expect(new Set(Object.values(words)).size).toBe(usual.length);
    }
    expect(
      Object.entries(messagesIn('en').listening.words).every(([id, word]) => id === word),
    ).toBe(true);
  });
});

it('a line that a translator left out stands there in English', () => {
  const english = { a: 'one', b: { c: 'two', d: 'three' }, e: { f: 'four' } };
  expect(filledIn({ a: 'eins', b: { d: '' }, e: 'vier', x: 'more' }, english)).toEqual({
    a: 'eins',
    b: { c: 'two', d: 'three' },
    e: { f: 'four' },
  });
});

it.each<[string | undefined, string | null, Language]>([
  [undefined, null, 'en'],
  [undefined, 'de-AT,de;q=0.9,en;q=0.5', 'de'],
  [undefined, 'it,fr;q=0.7,de;q=0.8', 'de'],
  [undefined, 'it', 'en'],
  [undefined, 'es-MX', 'es'],
  [undefined, 'de;q=0, fr', 'fr'],
  [undefined, '*', 'en'],
  [undefined, ';;q=x,,=', 'en'],
  // What was chosen by hand comes first; what is no language of ours was not chosen here.
  ['fr', 'de', 'fr'],
  ['tlh', 'de', 'de'],
  ['constructor', 'de', 'de'],
])('chosen %s, accepted %s: %s', (chosen, accepted, language) => {
  expect(languageOf(chosen, accepted)).toBe(language);
});

it('pages are sent lines that were read already, and the same is said of them', () => {
  const [message, line] = [
    compiledIn('de').listening.hint.ticked,
    messagesIn('de').listening.hint.ticked,
  ];
  expect(typeof line).toBe('string');
  expect(typeof message).not.toBe('string');
  const formatters = {
    getDateTimeFormat: (...given: ConstructorParameters<typeof Intl.DateTimeFormat>) =>
      new Intl.DateTimeFormat(...given),
    getNumberFormat: (...given: ConstructorParameters<typeof Intl.NumberFormat>) =>
      new Intl.NumberFormat(...given),
    getPluralRules: (...given: ConstructorParameters<typeof Intl.PluralRules>) =>
      new Intl.PluralRules(...given),
  };
  const said = [0, 1, 3].map((count) =>
    format(message as unknown as Parameters<typeof format>[0], 'de', { count }, { formatters }),
  );
  expect(said).toEqual([
    'Kein Wort angekreuzt. Es gibt kein Zurück.',
    '1 Wort angekreuzt. Es gibt kein Zurück.',
    '3 Wörter angekreuzt. Es gibt kein Zurück.',
  ]);
});
