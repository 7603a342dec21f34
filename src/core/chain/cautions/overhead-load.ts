import type { Caution } from './caution';

export const overheadLoad: Caution = {
  id: 'overhead-load',
  title: 'Heavy microphone over people',
  applies: (plan) => plan.overPeople,
  text: 'A microphone on a boom over people needs a stand made for the load, a counterweight, sandbags and a safety cable that holds by itself.',
  defersTo: 'the maker of the stand and local rules for loads over people',
};
