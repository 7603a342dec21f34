export const TONAL_WORDS: readonly string[] = (
  'dark bright boxy nasal airy thin full warm harsh sibilant boomy hollow smooth forward scooped ' +
  'detailed dull noisy'
).split(' ');
export const STEREO_WORDS: readonly string[] =
  'centred stable wide enveloping narrow blurred'.split(' ');
