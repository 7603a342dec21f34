import { decibels } from './equaliser';
import { stageKind } from './stage-kind';

export const level = stageKind({
  id: 'level',
  label: 'Level, on purpose',
  hint: 'Louder or quieter than the others after the match, to learn how far this panel follows loudness.',
  figures: { db: { label: 'against the others, dB', least: -2, most: 2, start: 0.5 } },
  choices: {},
  towards: null,
  words: ({ db }) => `${decibels(db)} on purpose`,
  make: () => [],
  offsetDb: ({ db }) => db,
});
