/** Sounds that are made up, for whoever has no clip of their own. */
export const MADE_SOUNDS = {
  contralto: 'a contralto',
  cello: 'a cello',
  clarinet: 'a clarinet',
  reader: 'somebody reading in no language',
  noise: 'pink noise',
} as const;
export type MadeSound = keyof typeof MADE_SOUNDS;
