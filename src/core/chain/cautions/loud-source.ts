import type { Caution } from './caution';

/** Where a short exposure of peaks begins to matter, dB SPL. */
const LOUD_DB = 110;

export const loudSource: Caution = {
  id: 'loud-source',
  title: 'Loud source',
  applies: ({ loudestDb }) => loudestDb !== null && loudestDb >= LOUD_DB,
  text: 'Peaks beyond 110 dB at the microphone: set the stand with the source silent, wear hearing protection beside it, keep sound checks short. A usual limit at work is 85 dBA for 8 hours, halved for every 3 dB more.',
  defersTo: 'local rules for noise at work',
};
